/** Hands a file to the browser, which saves it where it saves what is downloaded. */
export function saveFile(bytes: Blob, name: string): void {
  const address = URL.createObjectURL(bytes);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  // The browser has taken it by then.
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
}

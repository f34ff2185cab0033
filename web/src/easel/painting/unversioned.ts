/** Among the private files of this browser. */
export const FOLDER = 'painted';
/** Beside the files of a drawing of which something is no version yet. */
export const markOf = (drawing: string): string => `${drawing}.unversioned`;

/**
 * Whether something was painted on a drawing in this browser of which no version was made. What a page remembers otherwise comes
 * to the disk seconds later, too late where everything ends: a file is there at once.
 */
export async function isUnversioned(drawing: string): Promise<boolean> {
  try {
    const root = await navigator.storage.getDirectory();
    await (await root.getDirectoryHandle(FOLDER)).getFileHandle(markOf(drawing));
    return true;
  } catch {
    return false;
  }
}

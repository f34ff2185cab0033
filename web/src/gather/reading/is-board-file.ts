/** So much of a ZIP's end is looked at for the list of what is in it. */
const TAIL_BYTES = 4 * 1024 * 1024;
const NAME = 'board.json';
/** Of an entry in the list at the end, and where its name begins. Source: APPNOTE.TXT of the ZIP format, 4.3.12. */
const LISTED = 'PK\u0001\u0002';
const NAME_AT = 46;

const latin1 = async (bytes: Blob): Promise<string> =>
  new TextDecoder('latin1').decode(await bytes.arrayBuffer());

/** Whether a ZIP lists a `board.json` at its root or in its first folder: then it is a board, and no archive of pictures. */
export async function isBoardFile(zip: Blob): Promise<boolean> {
  const end = await latin1(zip.slice(Math.max(0, zip.size - TAIL_BYTES)));
  for (let at = end.indexOf(LISTED); at >= 0; at = end.indexOf(LISTED, at + 4)) {
    const length = end.charCodeAt(at + 28) + 256 * end.charCodeAt(at + 29);
    const name = end.slice(at + NAME_AT, at + NAME_AT + length);
    if (name === NAME || (name.endsWith(`/${NAME}`) && name.split('/').length === 2)) return true;
  }
  return false;
}

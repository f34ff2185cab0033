import type { Desk } from '../desk/index.ts';
import { copyText } from './readings.ts';

/** Copies a colour, and says so. */
export async function copyHex(desk: Desk, hex: string): Promise<void> {
  if (await copyText(window, hex)) desk.say(`Copied: ${hex}.`);
  else desk.say('The clipboard could not be written.', [hex]);
}

/** Copies a picture, and says so. @param what - "The palette" */
export async function copyPicture(desk: Desk, picture: Promise<Blob>, what: string): Promise<void> {
  try {
    await navigator.clipboard.write([new ClipboardItem({ 'image/png': picture })]);
    desk.say(`${what} is on the clipboard, as a picture.`);
  } catch {
    desk.say('The clipboard could not be written.', ['Save it as a file instead.']);
  }
}

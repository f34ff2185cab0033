import type { Desk } from '../../../desk/index.ts';
import { saveFile } from '../../../shell/index.ts';
import type { SheetFormat } from '../messages.ts';
import type { Opened } from './open-painting.ts';

const ENDINGS: Readonly<Record<SheetFormat, string>> = { png: 'png', openraster: 'ora' };

/** Hands the sheet out as a file, as it is now, with its resolution. */
export async function saveAs(desk: Desk, { painting, name }: Opened, as: SheetFormat): Promise<void> {
  try {
    const { file } = await painting.exported(as);
    saveFile(file, `${name}.${ENDINGS[as]}`);
  } catch (error) {
    desk.say('The file could not be made.', [(error as Error).message]);
  }
}

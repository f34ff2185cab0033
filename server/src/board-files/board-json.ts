import { type BoardFile, boardFileSchema } from '@miradero/core/schema';
import { withStorableText } from '@miradero/core/text';
import { compileSchema, explain } from '../requests/validation.ts';
import { type OpenZip, ZipError } from './open-zip.ts';

const isBoardFile = compileSchema(boardFileSchema);
const NAME = 'board.json';
/** A board of 100,000 items with its changes. */
const MOST_BYTES = 160 * 1024 * 1024;

/** Where the board lies in the ZIP: at its root, or in the one folder that was packed. */
function folderOf(zip: OpenZip): string | undefined {
  let folder: string | undefined;
  for (const name of zip.names()) {
    if (name !== NAME && !name.endsWith(`/${NAME}`)) continue;
    const found = name.slice(0, -NAME.length);
    if (folder === undefined || found.length < folder.length) folder = found;
  }
  return folder;
}

/** A board file that was read, and the folder of the ZIP in which its paths begin. */
export interface ReadJson {
  readonly file: BoardFile;
  readonly folder: string;
}

/** @throws ZipError with what is wrong, for the person */
export async function readBoardJson(zip: OpenZip): Promise<ReadJson> {
  const folder = folderOf(zip);
  if (folder === undefined) throw new ZipError('There is no “board.json” in it: it is no board file.');
  let value: unknown;
  try {
    value = JSON.parse(await zip.text(`${folder}${NAME}`, MOST_BYTES));
  } catch (error) {
    if (error instanceof ZipError) throw error;
    throw new ZipError('Its “board.json” is damaged.', { cause: error });
  }
  const { kind, version } = (value ?? {}) as Partial<Record<string, unknown>>;
  if (kind !== 'board') throw new ZipError('Its “board.json” is about something else than a board.');
  if (version !== 1)
    throw new ZipError(
      `It is of version ${String(version).slice(0, 20)}, and this Miradero reads version 1: a newer one is needed.`,
    );
  const file = withStorableText(value as object);
  if (!isBoardFile(file)) throw new ZipError(`Its “board.json” is damaged: ${explain(isBoardFile.errors)}.`);
  return { file: file as BoardFile, folder };
}

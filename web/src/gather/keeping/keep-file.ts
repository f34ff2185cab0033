import { cleanFileName, pictureIdOf, REFUSALS } from '@miradero/core/picture';
import type { AboutDrawing, Picture } from '@miradero/core/schema';
import { ask, type Sync, type WaitingFile } from '../../sync/index.ts';
import type { BroughtFile } from '../reading/brought.ts';
import { posterOf } from '../reading/poster.ts';
import { type FileShape, shapeOfFile } from '../reading/shape-of-file.ts';

export interface KeptFile {
  readonly picture: string;
  /** The same bytes were here before. */
  readonly isKnown: boolean;
}

const hexOf = (buffer: ArrayBuffer) =>
  [...new Uint8Array(buffer)].map((byte) => byte.toString(16).padStart(2, '0')).join('');

/** Longer than this nobody waits to hear whether a picture is here already: it is kept first, and said later. */
const ASK_MS = 2_000;

/** The picture as the server has it, also where no board of this window shows it; it is on the shelf then. */
async function knownToServer(sync: Sync, picture: string): Promise<Picture | undefined> {
  try {
    const { pictures } = await ask(
      'GET /api/pictures',
      { query: { ids: picture } },
      AbortSignal.timeout(ASK_MS),
    );
    const [known] = pictures;
    if (known) sync.shelf.learn(known);
    return known;
  } catch {
    return undefined;
  }
}

/** Keeps the bytes of a file on this computer, to be sent from there. @throws DOMException where there is no room */
export async function keepFile(
  sync: Sync,
  file: File,
  { type, width, height }: FileShape,
  name: string,
  {
    source,
    paperMm,
    taken,
    drawing,
  }: Pick<BroughtFile, 'source' | 'paperMm' | 'taken'> & { readonly drawing?: AboutDrawing },
): Promise<KeptFile> {
  const bytes = await file.arrayBuffer();
  const picture = pictureIdOf(sync.session.owner, hexOf(await crypto.subtle.digest('SHA-256', bytes)));
  const known = sync.shelf.get(picture)?.picture ?? (await knownToServer(sync, picture));
  if (known && !source && !taken && !drawing) return { picture, isKnown: true };
  const blob = new Blob([bytes], { type });
  const poster = await posterOf(blob, type);
  const waiting: WaitingFile = {
    ...{ id: picture, fileName: cleanFileName(file.name), name, type, width, height, bytes: blob },
    addedAt: new Date().toISOString(),
    ...(source ? { source } : {}),
    ...(paperMm ? { paperMm } : {}),
    ...(taken ? { taken } : {}),
    ...(drawing ? { drawing } : {}),
    ...(poster ? { poster } : {}),
  };
  const isKnown = sync.shelf.get(picture) !== undefined;
  await sync.database.put('files', waiting);
  sync.shelf.showFile(waiting);
  sync.channel.post({ kind: 'file-kept', picture });
  return { picture, isKnown };
}

/** Why a file did not come in, in words. */
export function whyNot(error: unknown): string {
  const isFull = error instanceof DOMException && error.name === 'QuotaExceededError';
  return isFull ? 'This browser has no room left for it.' : 'The file cannot be read.';
}

/** The shape of a file, or the words for why it cannot come in. */
export async function shapeOrWhy(file: File): Promise<FileShape | string> {
  const shape = await shapeOfFile(file).catch(() => 'damaged' as const);
  return typeof shape === 'string' ? REFUSALS[shape] : shape;
}

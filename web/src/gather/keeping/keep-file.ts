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

type Beside = Pick<BroughtFile, 'source' | 'paperMm' | 'taken'> & { readonly drawing?: AboutDrawing };

/** A file that is kept on this computer, and that nobody has heard of yet. */
export interface StoredFile extends KeptFile {
  /** Lets it be seen, and sends it. @param afterMs - it is sent so much later: what is seen comes first */
  tell(afterMs?: number): void;
  /** It is none after all. */
  forget(): Promise<void>;
}

async function storeFile(
  sync: Sync,
  picture: string,
  { bytes, fileName }: { readonly bytes: ArrayBuffer; readonly fileName: string },
  { type, width, height }: FileShape,
  name: string,
  { source, paperMm, taken, drawing }: Beside,
): Promise<StoredFile> {
  const blob = new Blob([bytes], { type });
  const poster = await posterOf(blob, type);
  const waiting: WaitingFile = {
    ...{ id: picture, fileName: cleanFileName(fileName), name, type, width, height, bytes: blob },
    addedAt: new Date().toISOString(),
    ...(source ? { source } : {}),
    ...(paperMm ? { paperMm } : {}),
    ...(taken ? { taken } : {}),
    ...(drawing ? { drawing } : {}),
    ...(poster ? { poster } : {}),
  };
  const isKnown = sync.shelf.get(picture) !== undefined;
  await sync.database.put('files', waiting);
  return {
    ...{ picture, isKnown },
    tell(afterMs = 0) {
      sync.shelf.showFile(waiting);
      const send = () => sync.channel.post({ kind: 'file-kept', picture });
      if (afterMs > 0) setTimeout(send, afterMs);
      else send();
    },
    forget: () => sync.database.delete('files', picture),
  };
}

async function bytesOf(sync: Sync, file: File): Promise<{ bytes: ArrayBuffer; picture: string }> {
  const bytes = await file.arrayBuffer();
  const hash = hexOf(await crypto.subtle.digest('SHA-256', bytes));
  return { bytes, picture: pictureIdOf(sync.session.owner, hash) };
}

/** Keeps a version of a drawing on this computer; whoever shows it says when it is to be seen. @throws DOMException where there is no room */
export async function storeVersion(
  sync: Sync,
  file: File,
  shape: FileShape,
  name: string,
  drawing: AboutDrawing,
): Promise<StoredFile> {
  const { bytes, picture } = await bytesOf(sync, file);
  return storeFile(sync, picture, { bytes, fileName: file.name }, shape, name, { drawing });
}

/** Keeps the bytes of a file on this computer, to be sent from there. @throws DOMException where there is no room */
export async function keepFile(
  sync: Sync,
  file: File,
  shape: FileShape,
  name: string,
  beside: Beside,
): Promise<KeptFile> {
  const { bytes, picture } = await bytesOf(sync, file);
  const known = sync.shelf.get(picture)?.picture ?? (await knownToServer(sync, picture));
  if (known && !beside.source && !beside.taken && !beside.drawing) return { picture, isKnown: true };
  const { isKnown, tell } = await storeFile(
    sync,
    picture,
    { bytes, fileName: file.name },
    shape,
    name,
    beside,
  );
  tell();
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

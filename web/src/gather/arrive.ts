import { arrange, boundsOf, createPlacement, keysOnTop } from '@miradero/core/board';
import { centreOf, type Point, type Rectangle } from '@miradero/core/geometry';
import { nameOfFile, pictureIdOf, REFUSALS } from '@miradero/core/picture';
import type { Arrival, Desk } from '../desk/index.ts';
import type { WaitingFile } from '../sync/index.ts';
import { type FileShape, shapeOfFile } from './shape-of-file.ts';

/** Files read and hashed at once: enough to keep the disk busy, few enough to keep memory low. */
const AT_ONCE = 2;

interface Incoming {
  readonly key: string;
  readonly file: File;
  readonly shape: FileShape;
  readonly name: string;
}

const hexOf = (buffer: ArrayBuffer) =>
  [...new Uint8Array(buffer)].map((byte) => byte.toString(16).padStart(2, '0')).join('');

/** Keeps the bytes on this computer, then lets the placement stand: in this order, so that a lost tab loses nothing. */
async function keepAndPlace(
  desk: Desk,
  incoming: Incoming,
  place: Rectangle,
  isContinuation: () => boolean,
): Promise<void> {
  const { sync, session } = desk;
  const { file, shape, name } = incoming;
  const bytes = await file.arrayBuffer();
  const id = pictureIdOf(sync.session.owner, hexOf(await crypto.subtle.digest('SHA-256', bytes)));
  const waiting: WaitingFile = {
    id,
    fileName: file.name,
    name,
    type: shape.type,
    width: shape.width,
    height: shape.height,
    bytes: new Blob([bytes], { type: shape.type }),
    addedAt: new Date().toISOString(),
  };
  const isStored = sync.shelf.get(id)?.picture !== undefined;
  if (!isStored) {
    await sync.database.put('files', waiting);
    sync.shelf.showFile(waiting);
    sync.channel.post({ kind: 'file-kept', picture: id });
  }
  const create = createPlacement({
    id: crypto.randomUUID(),
    stack: keysOnTop(session.items.values(), 1)[0]!,
    picture: id,
    pictureWidth: shape.width,
    pictureHeight: shape.height,
    centre: centreOf(place),
    width: place.width,
  });
  session.commit([{ create }], isContinuation());
}

/** Looks at the heads of the files. @returns those that can come in, and a line for each that cannot */
async function examine(files: readonly File[]): Promise<{ good: Incoming[]; refused: string[] }> {
  const shapes = await Promise.all(files.map((file) => shapeOfFile(file).catch(() => 'damaged' as const)));
  const good: Incoming[] = [];
  const refused: string[] = [];
  for (const [index, file] of files.entries()) {
    const shape = shapes[index]!;
    if (typeof shape === 'string') refused.push(`${file.name}: ${REFUSALS[shape]}`);
    else good.push({ key: crypto.randomUUID(), file, shape, name: nameOfFile(file.name) });
  }
  return { good, refused };
}

/**
 * Brings files onto the board: frames with names at once, then bytes kept, placements made and uploads begun behind.
 * All of them are one gesture: one undo takes them back.
 */
export async function arrive(desk: Desk, files: readonly File[], pointer: Point): Promise<void> {
  const { good, refused } = await examine(files);
  const placements = desk.session.standing.filter((item) => item.kind === 'placement').map(boundsOf);
  const standing = [...desk.session.standing.map(boundsOf), ...desk.arrivals.map((arrival) => arrival.place)];
  const places = arrange(
    good.map(({ shape }) => shape),
    pointer,
    desk.view!.view,
    placements,
    standing,
  );
  const arrivals = good.map(({ key, name }, index): Arrival => ({ key, name, place: places[index]! }));
  desk.setArrivals([...desk.arrivals, ...arrivals]);

  let placed = 0;
  const queue = good.map((incoming, index) => ({ incoming, place: places[index]! }));
  const work = async () => {
    for (let next = queue.shift(); next; next = queue.shift()) {
      const { incoming, place } = next;
      try {
        await keepAndPlace(desk, incoming, place, () => {
          placed += 1;
          return placed > 1;
        });
      } catch (error) {
        const isFull = error instanceof DOMException && error.name === 'QuotaExceededError';
        refused.push(
          `${incoming.file.name}: ${isFull ? 'This browser has no room left for it.' : 'The file cannot be read.'}`,
        );
      }
      desk.setArrivals(desk.arrivals.filter(({ key }) => key !== incoming.key));
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  if (refused.length > 0) {
    const count = refused.length === 1 ? 'One file was' : `${refused.length} files were`;
    desk.say(`${count} not taken in.`, refused);
  }
}

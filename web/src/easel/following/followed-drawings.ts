import { keysBelow } from '@miradero/core/board';
import { pixelsOfSheet } from '@miradero/core/easel';
import { createPlacement, isPlacement, type Placement, shownInstead } from '@miradero/core/items';
import { cleanName } from '@miradero/core/picture';
import type { Desk } from '../../desk/index.ts';
import { shapeOrWhy, storeVersion } from '../../gather/index.ts';
import { PixelError } from '../../pixels/index.ts';
import { createStore, type Readable } from '../../state/index.ts';
import type { FollowedFile } from '../../sync/index.ts';
import { sheetOf } from '../sheet-of.ts';
import { decodedFor } from './decoded-for.ts';
import { Follower } from './follower.ts';
import { pictureOfFile } from './picture-of-file.ts';

/** A version is sent so long after it is shown: the computer has enough to do with that. */
const SEND_AFTER_MS = 400;

export interface FollowedDrawing {
  readonly id: string;
  readonly name: string;
  readonly follower: Follower;
}

/** What shows a drawing on a board; undefined where nothing does. */
export const placementOf = ({ session }: Desk, drawing: string): Placement | undefined =>
  [...session.items.values()].filter(isPlacement).find((one) => !one.removed && one.drawing === drawing);

/** Lets a new version stand where its drawing stands; the first one fills the sheet as far as it can. One that was taken off stays off. */
export function showVersion(
  desk: Desk,
  drawing: string,
  picture: { id: string; width: number; height: number },
): void {
  const { session } = desk;
  const shown = { picture: picture.id, pictureWidth: picture.width, pictureHeight: picture.height };
  const known = [...session.items.values()].filter(isPlacement).filter((one) => one.drawing === drawing);
  if (known.length > 0) {
    const outdated = known.filter((one) => !one.removed && one.picture !== picture.id);
    session.correct(outdated.map((one) => ({ item: one.id, set: shownInstead(one, picture) })));
    return;
  }
  const sheet = sheetOf(desk);
  if (!sheet) return;
  const { trimmed, whole } = pixelsOfSheet(sheet.setup);
  // What has the pixels of the sheet with its bleed is that.
  const isWithBleed = picture.width === whole.width && picture.height === whole.height;
  const room = isWithBleed ? whole : trimmed;
  const scale = Math.min(room.width / picture.width, room.height / picture.height);
  const [stack] = keysBelow(session.standing, 1);
  const create = createPlacement({
    ...{ id: crypto.randomUUID(), stack: stack!, ...shown, drawing },
    ...{ centre: sheet.centre, width: picture.width * scale, isFixed: true },
  });
  session.commit([{ create }]);
}

/** The files that are followed for one board, in this window. */
export class FollowedDrawings {
  readonly #desk: Desk;
  readonly #store = createStore<{ readonly drawings: readonly FollowedDrawing[] }>(() => ({ drawings: [] }));
  readonly #stops = new Map<string, AbortController>();
  #isClosed = false;

  constructor(desk: Desk) {
    this.#desk = desk;
    void this.#read();
  }

  get store(): Readable<{ readonly drawings: readonly FollowedDrawing[] }> {
    return this.#store;
  }

  /** Follows a file from now on; one that is followed already is followed on. */
  async follow(handle: FileSystemFileHandle): Promise<void> {
    for (const { id, follower } of this.#store.getState().drawings) {
      const known = await this.#desk.sync.database.get('followed', id);
      if (known && (await known.handle.isSameEntry(handle))) {
        await follower.ask();
        return;
      }
    }
    const file: FollowedFile = {
      ...{ id: crypto.randomUUID(), board: this.#desk.session.id, handle },
      name: cleanName(handle.name) || 'drawing',
    };
    await this.#desk.sync.database.put('followed', file);
    this.#open(file);
  }

  /** Reads it no more; what it has brought stays. */
  async leave(id: string): Promise<void> {
    const { drawings } = this.#store.getState();
    drawings.find((one) => one.id === id)?.follower.stop();
    this.#stops.get(id)?.abort();
    this.#store.setState({ drawings: drawings.filter((one) => one.id !== id) });
    await this.#desk.sync.database.delete('followed', id);
  }

  close(): void {
    this.#isClosed = true;
    for (const { follower } of this.#store.getState().drawings) follower.stop();
    for (const stopped of this.#stops.values()) stopped.abort();
  }

  async #read(): Promise<void> {
    const { sync, session } = this.#desk;
    // A store that was taken over has nothing to tell.
    const all = await sync.database.getAll('followed').catch(() => []);
    if (this.#isClosed) return;
    for (const file of all) if (file.board === session.id) this.#open(file);
  }

  #open(file: FollowedFile): void {
    if (this.#store.getState().drawings.some(({ id }) => id === file.id)) return;
    const { id, name } = file;
    const follower = new Follower(file.handle, (saved, seen) => this.#take(file, saved, seen), file.read);
    this.#store.setState(({ drawings }) => ({ drawings: [...drawings, { id, name, follower }] }));
    // Of several windows one follows it: when that one is closed, the next.
    const stopped = new AbortController();
    this.#stops.set(id, stopped);
    const following = () =>
      new Promise<void>((resolve) => {
        stopped.signal.addEventListener('abort', () => resolve());
        void follower.start();
      });
    follower.wait();
    navigator.locks.request(`follow ${id}`, { signal: stopped.signal }, following).catch(() => {
      // It was left before its turn came.
    });
  }

  /** Makes a version of a saved file. @returns false where it is no whole picture yet @throws with words for why it is none */
  async #take(
    followed: FollowedFile,
    file: File,
    seen: { bytes: number; modifiedMs: number },
  ): Promise<boolean> {
    const { sync, session } = this.#desk;
    const picture = await pictureOfFile(file);
    if (!picture) return false;
    const shape = await shapeOrWhy(picture);
    if (typeof shape === 'string') throw new Error(shape);
    const { id, name, board } = followed;
    const drawing = { id, name, board, savedAt: new Date(seen.modifiedMs).toISOString() };
    // Decoded once, in the size in which it is seen, while it is kept: that tells whether it is whole.
    const [kept, decoded] = await Promise.all([
      storeVersion(sync, picture, shape, name, drawing),
      decodedFor(this.#desk, id, picture, shape).catch((error: unknown) =>
        error instanceof PixelError && error.trouble === 'undecodable' ? ('torn' as const) : undefined,
      ),
    ]);
    if (decoded === 'torn') {
      await kept.forget();
      return false;
    }
    if (decoded) this.#desk.feed.painter.give(kept.picture, decoded);
    kept.tell(SEND_AFTER_MS);
    // What no browser draws is seen once the server has it: until then the version before stays.
    const isDrawnHere = shape.type !== 'image/tiff' || !placementOf(this.#desk, id);
    if (session.id === board && isDrawnHere) showVersion(this.#desk, id, { id: kept.picture, ...shape });
    followed.read = seen;
    await sync.database.put('followed', followed).catch(() => {});
    return true;
  }
}

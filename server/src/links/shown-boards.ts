import { isSeen } from '@miradero/core/board';
import type { ViewerBoard } from '@miradero/core/board-file';
import { surroundColour } from '@miradero/core/colour';
import { picturesOf } from '@miradero/core/items';
import type { Item, Picture } from '@miradero/core/schema';
import { findBoardForFile } from '../database/board-files.ts';
import { findItems } from '../database/board-items.ts';
import type { Knex } from '../database/connection.ts';
import type { OpenLink } from '../database/links.ts';
import { findPicturesOfBoard } from '../database/pictures.ts';
import { viewerBoardOf } from '../jobs/viewer-board.ts';
import { ENDED, LookingError } from './looking-error.ts';

/** What stands on a link's board now, and the pictures of it: nothing else is shown by the link. */
export interface Shown {
  readonly items: readonly Item[];
  readonly pictures: ReadonlyMap<string, Picture>;
  readonly name: string;
  /** As its page draws it; set once, whoever looks. */
  viewer(): ViewerBoard;
}

interface Kept {
  readonly revision: number;
  readonly shown: Promise<Shown>;
  untilMs: number;
}

/** Names and sources of pictures may alter without the board: what was read is good for so long, ms. */
const KEPT_MS = 60_000;
/** The same while some of its pictures are still being made. */
const KEPT_UNREADY_MS = 1_000;
const MOST_BOARDS = 4;

async function read(knex: Knex, { owner, board: id }: OpenLink): Promise<Shown> {
  const board = await findBoardForFile(knex, id);
  if (!board) throw new LookingError(404, ENDED);
  const all = await findItems(knex, id);
  const map = new Map(all.map((item) => [item.id, item]));
  const seen = new Set(all.filter((item) => isSeen(map, item)).flatMap(picturesOf));
  const pictures = (await findPicturesOfBoard(knex, owner, id)).filter((picture) => seen.has(picture.id));
  const items = all.filter(({ removed }) => !removed);
  const shown = new Map(pictures.map((picture) => [picture.id, picture]));
  let viewer: ViewerBoard | undefined;
  return {
    ...{ name: board.name, items, pictures: shown },
    viewer() {
      viewer ??= viewerBoardOf(board.name, surroundColour(board.surround), items, shown).viewer;
      return viewer;
    },
  };
}

/** Boards as links show them, read once for each of their states: a page asks for thousands of copies of one. */
export class ShownBoards {
  readonly #knex: Knex;
  readonly #kept = new Map<string, Kept>();

  constructor(knex: Knex) {
    this.#knex = knex;
  }

  /** @throws LookingError where the board is gone */
  of(link: OpenLink): Promise<Shown> {
    const { board, revision } = link;
    const now = performance.now();
    const known = this.#kept.get(board);
    if (known && known.revision === revision && known.untilMs > now) return known.shown;
    const kept: Kept = { revision, shown: read(this.#knex, link), untilMs: now + KEPT_MS };
    this.#kept.delete(board);
    this.#kept.set(board, kept);
    const [oldest] = this.#kept.keys();
    if (this.#kept.size > MOST_BOARDS) this.#kept.delete(oldest!);
    kept.shown.then(
      ({ pictures }) => {
        const isMade = [...pictures.values()].every(({ state }) => state === 'ready');
        if (!isMade) kept.untilMs = performance.now() + KEPT_UNREADY_MS;
      },
      () => {
        if (this.#kept.get(board) === kept) this.#kept.delete(board);
      },
    );
    return kept.shown;
  }
}

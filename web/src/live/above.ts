import { boundsOf, compareStacking } from '@miradero/core/board';
import { overlaps } from '@miradero/core/geometry';
import { isMultiplied, type Placement } from '@miradero/core/items';
import type { ViewOfMoving } from '../stage/index.ts';
import { Aside } from './aside.ts';

/** Neighbours in the stack that are all multiplied with what lies below, or all not. */
interface Run {
  readonly isMultiplied: boolean;
  readonly ids: string[];
}

/** What lies over what moves on one view: notes, marks, other pictures. It is painted once, and laid over every frame. */
export class Above {
  readonly #view: ViewOfMoving;
  /** Of each run, lowest first. */
  readonly #runs: Aside[] = [];

  constructor(view: ViewOfMoving) {
    this.#view = view;
  }

  /** Lays it over what was drawn. @param moving - placements, as they are drawn */
  draw(context: CanvasRenderingContext2D, moving: readonly Placement[]): void {
    const { feed, view } = this.#view;
    const own = new Set(moving.map(({ id }) => id));
    const above = feed
      .itemsWithin(view)
      .filter(
        (item) =>
          !own.has(item.id) &&
          moving.some((one) => compareStacking(one, item) < 0 && overlaps(boundsOf(one), boundsOf(item))),
      )
      .sort(compareStacking);
    // Held by a hand they are elsewhere than they were painted.
    const isHeld = feed.board.previewed.some((id) => own.has(id));
    const marksOf = moving.filter(({ id }) => !isHeld && feed.hasMarksOn(id)).map(({ id }) => id);
    const runs: Run[] = marksOf.length > 0 ? [{ isMultiplied: false, ids: [] }] : [];
    for (const item of above) {
      const last = runs.at(-1);
      if (last?.isMultiplied === isMultiplied(item)) last.ids.push(item.id);
      else runs.push({ isMultiplied: isMultiplied(item), ids: [item.id] });
    }
    for (const unused of this.#runs.splice(runs.length)) unused.close();
    for (const [index, run] of runs.entries()) {
      this.#runs[index] ??= new Aside(this.#view);
      context.globalCompositeOperation = run.isMultiplied ? 'multiply' : 'source-over';
      this.#runs[index]!.draw(context, { only: run.ids, ground: null, ...(index === 0 && { marksOf }) });
    }
    context.globalCompositeOperation = 'source-over';
  }

  close(): void {
    for (const run of this.#runs.splice(0)) run.close();
  }
}

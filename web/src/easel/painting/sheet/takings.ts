import type { Rectangle } from '@miradero/core/geometry';
import type { PaintFacts, ToPaint } from '../messages.ts';

/** What ends that something is carried. */
const ENDS_CARRYING: ReadonlySet<ToPaint['kind']> = new Set([
  ...(['begin', 'cancel', 'undo', 'lasso', 'fill', 'discard'] as const),
  ...(['settle', 'shrink', 'ground', 'layers'] as const),
]);

/** So often a part of the sheet was taken: what the worker tells may be of before something was done. */
export class Takings {
  #count = 0;
  /** The last of them that is carried no more. */
  #over = 0;

  /** @returns the number of the new one */
  add(): number {
    this.#count += 1;
    return this.#count;
  }

  /** Something is done. @returns whether nothing is carried from now on */
  endBy(kind: ToPaint['kind']): boolean {
    if (!ENDS_CARRYING.has(kind)) return false;
    this.#over = this.#count;
    return true;
  }

  /** Whether something is being taken of which it is not known yet what it is. */
  isUnderWay(facts: PaintFacts | undefined): boolean {
    return this.#count > Math.max(this.#over, facts?.takes ?? 0);
  }

  /** What is carried by what the worker tells, pixels of the sheet. */
  carriedOf({ taken, takes }: PaintFacts): Rectangle | null {
    return takes === this.#count && takes > this.#over ? taken : null;
  }
}

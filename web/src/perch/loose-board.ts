import { createPlacement } from '@miradero/core/items';
import type { Picture } from '@miradero/core/schema';
import { HeldBoard } from '../sync/index.ts';

const SURROUND = 5;

/** Pictures that are on no board. */
export class LooseBoard extends HeldBoard {
  readonly #rename: (picture: string, name: string) => void;

  constructor(pictures: readonly Picture[], rename: (picture: string, name: string) => void) {
    const placed = pictures.map(({ id, width, height }, index) =>
      createPlacement({
        ...{ id, stack: `a${index}`, picture: id, pictureWidth: width, pictureHeight: height },
        ...{ centre: { x: 0, y: 0 }, width },
      }),
    );
    super(
      {
        ...{ id: 'loose', name: 'Pictures', surround: SURROUND, putAway: false, revision: 0 },
        ...{ pictures: pictures.length, preview: null, createdAt: '', changedAt: '' },
        ...{ forWhom: '', question: '', due: null, sheet: null },
      },
      new Map(placed.map((item) => [item.id, item])),
    );
    this.#rename = rename;
  }

  override renamePicture(picture: string, name: string): void {
    this.#rename(picture, name);
  }
}

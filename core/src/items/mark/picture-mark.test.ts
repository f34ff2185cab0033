import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawList, duplicate, marksByPicture, marksInMirror, withMarks } from '../../board/index.ts';
import { placementWith } from '../../board/test/arbitrary.ts';
import { applyAffine, boundsOfPoints, compose, type Point, scaling } from '../../geometry/index.ts';
import {
  createMark,
  createPictureMark,
  type Drawn,
  drawnOf,
  type Item,
  isRubbed,
  kindOf,
  type Path,
  piecesLeft,
  rubberOn,
} from '../index.ts';

const start = { stack: 'a5', ink: '#1d1d1b', smoothing: 0.2, seed: 7, pen: 'hard-pencil', nib: 3 } as const;
const EVERYWHERE = { x: -1e6, y: -1e6, width: 2e6, height: 2e6 };
const line = [
  { x: 10, y: -20, pressure: 0.5 },
  { x: 60, y: 30, pressure: 0.8, tilt: 50 },
  { x: 90, y: 25, pressure: 0.4 },
];
const placement = placementWith(fc.constant('p'));

const cornersOf = ({ d }: Path): Point[] => {
  const figures = (d.match(/-?\d+(?:\.\d+)?(?:e-?\d+)?/g) ?? []).map(Number);
  return figures.flatMap((x, at) => (at % 2 === 0 ? [{ x, y: figures[at + 1]! }] : []));
};

/** Where what is drawn on a picture lies on the board. */
function marksOnBoard({ frame, primitives }: Drawn) {
  return primitives.flatMap((one) =>
    one.kind === 'paths-on-picture'
      ? one.layers.map(({ toPlace, paths }) => {
          const toBoard = compose(frame, scaling(one.place.width, one.place.height), toPlace);
          return boundsOfPoints(paths.flatMap(cornersOf).map((corner) => applyAffine(toBoard, corner)));
        })
      : [],
  );
}

describe('a mark on a picture', () => {
  it('lies where the hand drew it, however the picture stands', () => {
    fc.assert(
      fc.property(placement, (item) => {
        const mark = createPictureMark(item, { id: 'm', points: line, ...start });
        const alone = createMark({ id: 'n', points: line, ...start });
        const [wanted] = [drawnOf(alone)].map(({ frame, primitives }) =>
          boundsOfPoints(
            primitives.flatMap((one) =>
              one.kind === 'path' ? cornersOf(one).map((corner) => applyAffine(frame, corner)) : [],
            ),
          ),
        );
        const [lies] = marksOnBoard(drawnOf(item, [mark]));
        // Of a picture that is shown very large few parts are left to a stroke.
        for (const side of ['x', 'y', 'width', 'height'] as const)
          expect(Math.abs(lies![side] - wanted![side])).toBeLessThan(start.nib / 2);
      }),
      { numRuns: 200 },
    );
  });

  it('goes where the picture goes, is copied with it onto its copy, and is drawn with nothing else', () => {
    fc.assert(
      fc.property(placement, (stands) => {
        const item = { ...stands, removed: false };
        const mark = createPictureMark(item, { id: 'm', points: line, ...start });
        const items = new Map<string, Item>([item, mark].map((one) => [one.id, one]));
        const ids = ['q', 'n'];
        const both = withMarks(items, [item]);
        expect(both.map(({ id }) => id)).toEqual(['p', 'm']);
        const copies = duplicate(both, { x: 100, y: 40 }, () => ids.shift()!, ['b0', 'b1']);
        const drawn = drawList([item, mark, ...copies], EVERYWHERE);
        expect(drawn.map(({ id }) => id).sort()).toEqual(['p', 'q']);
        const [here] = marksOnBoard(drawn.find(({ id }) => id === 'p')!);
        const [there] = marksOnBoard(drawn.find(({ id }) => id === 'q')!);
        expect(there!.x).toBeCloseTo(here!.x + 100, 6);
        expect(there!.y).toBeCloseTo(here!.y + 40, 6);
        // What is on a picture that is gone is nowhere.
        expect(drawList([{ ...item, removed: true }, mark], EVERYWHERE)).toEqual([]);
        expect(marksByPicture(new Map([['m', { ...mark, removed: true }]])).size).toBe(0);
      }),
    );
  });

  it('shows the same where its picture is exchanged for its mirror image', () => {
    fc.assert(
      fc.property(placement, (item) => {
        const mark = createPictureMark(item, { id: 'm', points: line, ...start });
        const other = { id: 'other', width: item.pictureWidth, height: item.pictureHeight };
        const exchanged = { ...item, ...kindOf(item).exchanged!(item, other, true) } as typeof item;
        const [operation] = marksInMirror(
          new Map<string, Item>([
            ['p', item],
            ['m', mark],
          ]),
          new Set(['p']),
        );
        const mirrored = { ...mark, ...(operation as unknown as { set: object }).set };
        // A trim whose frame leans has no exact mirror image with rounded figures, and one at its edge is moved into it.
        fc.pre(item.trim.x + item.trim.width <= 1);
        const [before] = marksOnBoard(drawnOf(item, [mark]));
        const [after] = marksOnBoard(drawnOf(exchanged, [mirrored]));
        const size = Math.max(before!.width, before!.height);
        for (const side of ['x', 'y', 'width', 'height'] as const)
          expect(Math.abs(after![side] - before![side])).toBeLessThan(1e-3 * size + 1e-6);
      }),
    );
  });

  it('is rubbed where it lies on the board, and what is left belongs to the picture', () => {
    fc.assert(
      fc.property(placement, (item) => {
        const mark = createPictureMark(item, { id: 'm', points: line, ...start });
        const across = {
          path: [
            { x: 20, y: 20 },
            { x: 50, y: -10 },
          ],
          radius: 2,
        };
        const ids = ['a', 'b', 'c', 'd'];
        const pieces = piecesLeft(mark, rubberOn(item, across), () => ids.shift()!)!;
        expect(pieces.map(({ kind, on }) => [kind, on])).toEqual(pieces.map(() => ['picture-mark', 'p']));
        expect(pieces.length).toBeGreaterThan(0);
        const away = { path: [{ x: 200, y: 200 }], radius: 2 };
        expect(isRubbed(mark, rubberOn(item, away))).toBe(false);
      }),
      { numRuns: 60 },
    );
  });
});

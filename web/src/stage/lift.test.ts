import { createPlacement, type Item, type Placement } from '@miradero/core/items';
import { expect, it } from 'vitest';
import type { Buffer } from './buffer.ts';
import { lookOf, paintLift } from './lift.ts';
import type { PaintTask } from './messages.ts';
import type { BoardOnStage } from './scene-feed.ts';

const drawing = createPlacement({
  ...{ id: 'd', stack: 'a0', picture: 'newest', pictureWidth: 40, pictureHeight: 30 },
  ...{ centre: { x: 0, y: 0 }, width: 40 },
});
const now = {
  ...{ view: { x: -50, y: -50, width: 100, height: 100 }, scale: 1, ground: '#797979' },
  ...{ lenses: [], ratio: 1 },
};

/** A board on which something is shown as `under` says. */
const boardWith = (under: Partial<Placement>): BoardOnStage => ({
  items: new Map<string, Item>([['d', drawing]]),
  shown: () => ({ ...drawing, ...under }),
  previewed: ['d'],
  onAltered: () => () => {},
  onPreview: () => () => {},
});

async function lift(under: Partial<Placement>, painted: Partial<Buffer>) {
  const asked: PaintTask[] = [];
  const paint = async (task: PaintTask) => {
    asked.push(task);
    return { bitmap: {}, scale: 1, staleness: 7, isSharp: true, isComplete: true, ...painted } as Buffer;
  };
  const made = await paintLift(paint, boardWith(under), now, ['d'], { withBelow: false, isLoading: true });
  return { lacksAt: made!.lifted.lacksAt, isLoading: asked[0]!.isLoading };
}

it('has of what a hand moves what there is, and asks for nothing', async () => {
  const moved = { centre: { x: 9, y: 9 } };
  expect(await lift(moved, { isSharp: false })).toEqual({ lacksAt: undefined, isLoading: false });
});

it('asks for a picture that is shown in place of another, and is lifted anew until all of it is there', async () => {
  const version = { picture: 'first' };
  expect(await lift(version, { isComplete: false })).toEqual({ lacksAt: 7, isLoading: true });
  expect(await lift(version, { isSharp: false })).toEqual({ lacksAt: 7, isLoading: true });
  expect(await lift(version, {})).toEqual({ lacksAt: undefined, isLoading: true });
});

it('looks otherwise with another picture, and the same wherever it is moved', () => {
  const looks = [{}, { centre: { x: 9, y: 9 } }, { picture: 'first' }, { picture: 'second' }];
  const [still, moved, first, second] = looks.map((under) => lookOf(boardWith(under), ['d']));
  expect(moved).toBe(still);
  expect(new Set([still, first, second]).size).toBe(3);
});

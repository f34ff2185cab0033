import { createNote, createPlacement } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { BoardSession } from '../sync/index.ts';
import { FakeServer } from '../sync/test/fake-server.ts';
import { startTestSync, type TestSync } from '../sync/test/start.ts';
import { arrangementShowing, readArrangement } from './arrangement.ts';
import { PartBoard } from './part-board.ts';
import { lastTogether, readWindows } from './popups.ts';
import { withoutNotes } from './without-notes.ts';

const BOARD = 'b0000000-0000-4000-8000-000000000000';
const PICTURE = 'c0000000-0000-4000-8000-000000000000';
const placement = (id: string, x: number, width: number): Item =>
  createPlacement({
    ...{ id, stack: 'a0', picture: PICTURE, pictureWidth: 600, pictureHeight: 400 },
    ...{ centre: { x, y: 0 }, width },
  });
const note = (id: string): Item =>
  createNote({ id, stack: 'a1', centre: { x: 0, y: 900 }, width: 240, height: 51, text: id });

let sync: TestSync;
let board: BoardSession;
let part: PartBoard;

beforeEach(async () => {
  const server = new FakeServer(BOARD);
  const items = [placement('far', 9_000, 90), placement('near', 0, 300), note('n')];
  server.accept({ id: crypto.randomUUID(), operations: items.map((create) => ({ create })) });
  sync = await startTestSync();
  board = await BoardSession.open(sync, BOARD);
  part = new PartBoard(board, () => ['near', 'far', 'gone']);
  part.fill({ width: 406, height: 200 });
});
afterEach(() => {
  part.close();
  board.close();
  sync.stop();
});

describe('a few pictures of a board, shown alone', () => {
  it('fill the window in their order, wherever and however large they are on the board', () => {
    expect(part.order).toEqual(['near', 'far']);
    const [near, far] = part.order.map((id) => part.items.get(id)!);
    expect(near!.width).toBeCloseTo(far!.width, 6);
    expect(near!.width + far!.width).toBeCloseTo(400, 6);
    expect(board.items.get('far')!.width).toBe(90);
  });

  it('are altered on their board by what is done to them here, but for their places', () => {
    part.commit([{ item: 'far', set: { flipX: true, centre: { x: 3, y: 4 } } }]);
    expect(board.items.get('far')).toMatchObject({ flipX: true, centre: { x: 9_000, y: 0 }, width: 90 });
    const before = part.items.get('far')!;
    // The right half is cut off: it keeps its left edge here, and there.
    const trim = { x: 0, y: 0, width: 0.5, height: 1 };
    const centre = { x: before.centre.x - before.width / 4, y: before.centre.y };
    part.commit([{ item: 'far', set: { trim, width: before.width / 2, centre } }]);
    expect(board.items.get('far')).toMatchObject({ trim, width: 45 });
    expect(board.items.get('far')!.centre.x).toBeCloseTo(9_000 - 22.5, 6);
    part.commit([{ item: 'near', set: { centre: { x: 5, y: 5 } } }]);
    expect(board.items.get('near')!.centre).toEqual({ x: 0, y: 0 });
    part.commit([{ item: 'near', set: { removed: true } }]);
    expect(part.order).toEqual(['far']);
  });

  it('show what a hand does to them on the board, where they stand here', () => {
    const before = part.items.get('near')!;
    board.preview([{ item: 'near', set: { opacity: 0.5, centre: { x: 700, y: 0 } } }]);
    expect(part.previewed).toEqual(['near']);
    expect(part.shown('near')).toMatchObject({ opacity: 0.5, centre: before.centre, width: before.width });
    board.preview([]);
    part.preview([{ item: 'near', set: { opacity: 0.25 } }]);
    expect(board.shown('near')).toMatchObject({ opacity: 0.25 });
    part.preview([]);
    expect(board.previewed).toEqual([]);
  });

  it('take in what is made here, which stands on the board in free space at their size', () => {
    const made: string[][] = [];
    part.onCreated = (ids) => {
      made.push([...ids]);
      return [{ item: 'near', set: { opacity: 0.5 } }];
    };
    part.commit([{ create: placement('new', 100, part.items.get('near')!.width) }]);
    expect(made).toEqual([['new']]);
    const fresh = board.items.get('new')!;
    // Of two sizes on the board the middle one, or the larger.
    expect([90, 300].some((width) => Math.abs(fresh.width - width) < 1e-6)).toBe(true);
    for (const { id, centre, width } of board.standing)
      if (id !== 'new')
        expect(
          Math.abs(centre.x - fresh.centre.x) >= (width + fresh.width) / 2 - 1e-6 ||
            Math.abs(centre.y - fresh.centre.y) > 1,
        ).toBe(true);
    expect(board.items.get('near')!.opacity).toBe(0.5);
  });
});

describe('a board without its notes', () => {
  it('has everything else, and follows the board', () => {
    const seen = withoutNotes(board);
    const told: string[][] = [];
    seen.onAltered((touched) => told.push([...touched]));
    expect([...seen.items.keys()]).toEqual(['far', 'near']);
    expect(seen.shown('n')).toBeUndefined();
    board.commit([{ create: note('m') }, { create: placement('p', 0, 10) }]);
    expect([...seen.items.keys()].sort()).toEqual(['far', 'near', 'p']);
    expect(told).toEqual([['m', 'p']]);
  });
});

describe('what is kept of the perch', () => {
  const whole = arrangementShowing({ kind: 'board', board: BOARD });

  it('comes back as it was', () => {
    const kept = { ...whole, isHoverLook: true, edge: 'top' as const, hoverMs: 900 };
    expect(readArrangement(JSON.stringify(kept))).toEqual({
      ...kept,
      panes: { a: { ...kept.panes.a, camera: undefined } },
    });
  });

  it('is as at first where it is torn, and nothing where it cannot be read', () => {
    const torn = { ...whole, front: 'z', hoverMs: -5, edge: 'left' };
    const pane = {
      ...whole.panes.a,
      opacity: 40,
      orientation: { degrees: 900 },
      lenses: ['x', null],
      camera: 3,
    };
    const read = readArrangement(JSON.stringify({ ...torn, panes: { a: pane } }));
    expect(read).toMatchObject({ front: 'a', hoverMs: 600, edge: 'bottom' });
    expect(read!.panes.a).toMatchObject({ opacity: 1, lenses: [], camera: undefined });
    for (const bad of [null, '', '{', '7', '{"tree":3}', JSON.stringify({ ...whole, panes: {} })])
      expect(readArrangement(bad)).toBeUndefined();
    const foreign = { a: { ...whole.panes.a, shows: { kind: 'board', board: '../../evil' } } };
    expect(readArrangement(JSON.stringify({ ...whole, panes: foreign }))).toBeUndefined();
  });

  it('of windows: those open together last come back, also after the browser ended', () => {
    const at = (closedAtMs: number | null, seenAtMs: number) => ({ closedAtMs, seenAtMs, places: {} });
    const together = (windows: Parameters<typeof lastTogether>[0]['windows']) => lastTogether({ windows });
    expect(together({ a: at(1_000_000, 0), b: at(1_004_000, 0), c: at(5_000, 0) })).toEqual(['a', 'b']);
    expect(together({ a: at(null, 2_000_000), b: at(1_000, 0) })).toEqual(['a']);
    expect(together({ a: at(null, 2_000_000), b: at(1_999_000, 0) })).toEqual(['a', 'b']);
    expect(together({})).toEqual([]);
    for (const torn of [null, '[', '3', '{"windows":{"a":null},"parts":{"x":{"width":-1}}}'])
      expect(readWindows(torn).parts).toEqual({});
  });
});

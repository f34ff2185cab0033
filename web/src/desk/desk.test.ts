import { createNote } from '@miradero/core/items';
import type { Note } from '@miradero/core/schema';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { watch } from '../state/index.ts';
import { BoardSession } from '../sync/index.ts';
import { FakeServer } from '../sync/test/fake-server.ts';
import { startTestSync, type TestSync } from '../sync/test/start.ts';
import { alter } from './alter.ts';
import { Desk } from './desk.ts';

const BOARD = 'b0000000-0000-4000-8000-000000000000';
const note = (id: string): Note =>
  createNote({ id, stack: 'a0', centre: { x: 0, y: 0 }, width: 240, height: 51, text: id });

/** A painting worker that paints nothing. */
class IdleWorker {
  postMessage() {}
  terminate() {}
}

let sync: TestSync;
let desk: Desk;
/** What was told since, by who told it. */
let told: string[];

beforeEach(async () => {
  vi.stubGlobal('Worker', IdleWorker);
  const server = new FakeServer(BOARD);
  server.accept({ id: crypto.randomUUID(), operations: ['a', 'b'].map((id) => ({ create: note(id) })) });
  sync = await startTestSync();
  const session = await BoardSession.open(sync, BOARD);
  desk = new Desk(sync, session);
  told = [];
  desk.store.subscribe(() => told.push('desk'));
  desk.hover.subscribe(() => told.push('hover'));
  session.store.subscribe(() => told.push('content'));
  session.onPreview(() => told.push('preview'));
});
afterEach(() => {
  desk.close();
  sync.stop();
  vi.unstubAllGlobals();
});

describe('what is told', () => {
  it('of the pointer, only to those who ask for it', () => {
    desk.point({ x: 1, y: 2 }, 'a');
    expect(told).toEqual(['hover']);
    expect(desk.targets.map(({ id }) => id)).toEqual(['a']);
  });

  it('of a preview, is no alteration of what stands', () => {
    const { standing } = desk.session;
    desk.session.preview([{ item: 'a', set: { width: 300 } }]);
    expect(told).toEqual(['preview']);
    expect(desk.session.standing).toBe(standing);
    const shown = desk.session.shown('a');
    expect(shown?.width).toBe(300);
    expect(desk.session.shown('a')).toBe(shown);
    desk.session.preview([]);
    expect(desk.session.shown('a')?.width).toBe(240);
  });

  it('of what hurries nobody, once what was being said is read', () => {
    desk.say('Taken back');
    desk.sayNext('Since yesterday', ['more']);
    expect(desk.now.notice?.text).toBe('Taken back');
    desk.unsay();
    expect(desk.now.notice).toEqual({ text: 'Since yesterday', detail: ['more'] });
    desk.unsay();
    expect(desk.now.notice).toBeUndefined();
    desk.sayNext('at once');
    expect(desk.now.notice?.text).toBe('at once');
  });

  it('of a notice, nothing to those who watch the selection', () => {
    const selections: number[] = [];
    const end = watch(
      desk.store,
      ({ selection }) => selection,
      ({ size }) => selections.push(size),
    );
    desk.say('Something was done.');
    desk.select(['a', 'b']);
    end();
    desk.select([]);
    expect(selections).toEqual([2]);
  });

  it('of an alteration, is that of what stands, and the selection follows', () => {
    desk.select(['a', 'b']);
    const { selected } = desk;
    expect(desk.selected).toBe(selected);
    told = [];
    desk.session.commit([{ item: 'b', set: { removed: true } }]);
    expect(told).toEqual(['desk', 'content']);
    expect(desk.selected.map(({ id }) => id)).toEqual(['a']);
    told = [];
    desk.session.commit([{ item: 'a', set: { width: 100 } }]);
    expect(told).toEqual(['content']);
    expect(desk.selected[0]?.width).toBe(100);
  });
});

describe('a burst of keys', () => {
  const nudge = () => alter.move(desk, { x: 1, y: 0 });
  const x = () => (desk.session.items.get('a') as Note).centre.x;
  let nowMs: number;
  beforeEach(() => {
    nowMs = 1_000;
    vi.spyOn(performance, 'now').mockImplementation(() => nowMs);
    desk.select(['a']);
  });
  afterEach(() => {
    vi.restoreAllMocks();
  });

  it('is one step, and another begins when the hand has rested', async () => {
    for (let press = 0; press < 5; press += 1) {
      nowMs += 30;
      nudge();
    }
    nowMs += 2_000;
    nudge();
    nudge();
    expect(x()).toBe(7);
    await sync.steps.undo();
    expect(x()).toBe(5);
    await sync.steps.undo();
    expect(x()).toBe(0);
    await sync.steps.redo();
    expect(x()).toBe(5);
  });

  it('ends with another thing done, and with another selection', async () => {
    nudge();
    alter.turn(desk, 1);
    alter.turn(desk, 1);
    nudge();
    desk.select(['a', 'b']);
    nudge();
    alter.turn(desk, 90);
    alter.turn(desk, 90);
    nudge();
    // By hand, say.
    desk.session.commit([{ item: 'a', set: { centre: { x: 50, y: 0 } } }]);
    nudge();
    let steps = 0;
    while (await sync.steps.undo()) steps += 1;
    // The two turns by a degree are one.
    expect(steps).toBe(9);
    expect(x()).toBe(0);
  });
});

describe('a tool that is taken while a key is held', () => {
  const toolNamed = (id: string) => {
    const left = vi.fn();
    return { left, tool: { id, press: () => undefined, offer: () => ({ title: id, ids: [] }), leave: left } };
  };

  it('gives way to the one before it, which was not left', () => {
    const [draws, reads] = [toolNamed('draws'), toolNamed('reads')];
    desk.take(draws.tool);
    desk.takeMeanwhile(reads.tool);
    expect(desk.tool?.id).toBe('reads');
    desk.leaveMeanwhile(reads.tool);
    expect(desk.tool?.id).toBe('draws');
    expect(draws.left).not.toHaveBeenCalled();
    expect(reads.left).toHaveBeenCalledTimes(1);
    // Escape takes it away first.
    desk.takeMeanwhile(reads.tool);
    desk.stepBack(undefined);
    expect(desk.tool?.id).toBe('draws');
    desk.stepBack(undefined);
    expect(desk.tool).toBeUndefined();
    expect(draws.left).toHaveBeenCalledTimes(1);
  });

  it('is left with the one before it where another is taken meanwhile, which then stays', () => {
    const [draws, reads, writes] = [toolNamed('draws'), toolNamed('reads'), toolNamed('writes')];
    desk.take(draws.tool);
    desk.takeMeanwhile(reads.tool);
    desk.take(writes.tool);
    for (const { left } of [draws, reads]) expect(left).toHaveBeenCalledTimes(1);
    desk.leaveMeanwhile(reads.tool);
    expect(desk.tool?.id).toBe('writes');
    expect(reads.left).toHaveBeenCalledTimes(1);
  });
});

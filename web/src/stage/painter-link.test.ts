import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { FromWorker, ToWorker } from './messages.ts';
import { type PaintedScene, PainterLink, PainterLostError } from './painter-link.ts';

/** A worker that answers when a test says so. */
class FakeWorker {
  readonly heard: ToWorker[] = [];
  isTerminated = false;
  onmessage: (event: { data: FromWorker }) => void = () => {};
  onerror: (event: { message: string; preventDefault(): void }) => void = () => {};
  onmessageerror = () => {};
  postMessage(message: ToWorker) {
    this.heard.push(message);
  }
  terminate() {
    this.isTerminated = true;
  }
  fail() {
    this.onerror({ message: 'of no memory', preventDefault() {} });
  }
  answer() {
    const last = this.heard.findLast((message) => message.kind === 'paint');
    if (last?.kind !== 'paint') throw new Error('nothing was asked');
    const frame = {
      id: last.request.id,
      bitmap: {} as ImageBitmap,
      isSharp: true,
      isComplete: true,
      isAwaiting: false,
    };
    this.onmessage({ data: { kind: 'painted', frame } });
  }
}

const REQUEST = {
  ...{ view: { x: 0, y: 0, width: 1, height: 1 }, scale: 1, ground: null, isLoading: false },
};
const NEWS = { set: [], removed: [] };
const SCENE: ToWorker = { kind: 'items', scene: 1, ...NEWS };
const SOURCES: ToWorker = { kind: 'sources', sources: [] };
const PIXELS: ToWorker = { kind: 'pixels', port: undefined };
/** How many painting workers have a channel to the pixels now. */
let lent: number;
const pool = {
  lend(connect: (port: MessagePort | undefined) => void) {
    lent += 1;
    connect(undefined);
    return () => {
      lent -= 1;
    };
  },
};
let workers: FakeWorker[];
let link: PainterLink;
let scene: PaintedScene;
const latest = () => workers.at(-1)!;

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] });
  vi.spyOn(console, 'error').mockImplementation(() => {});
  workers = [];
  lent = 0;
  link = new PainterLink(() => {
    workers.push(new FakeWorker());
    return latest() as unknown as Worker;
  }, pool);
  scene = link.openScene({ items: () => NEWS, sources: () => [] });
});
afterEach(() => {
  scene.close();
  vi.useRealTimers();
  vi.restoreAllMocks();
});

describe('scenes of one painting worker', () => {
  it('are told apart, all of them known to one that is started anew, and it ends with the last', async () => {
    const other = link.openScene({ items: () => NEWS, sources: () => [] });
    const painted = other.paint(REQUEST);
    expect(latest().heard.at(-1)).toMatchObject({ kind: 'paint', request: { scene: 2 } });
    latest().answer();
    await painted;
    latest().fail();
    vi.advanceTimersByTime(1);
    expect(latest().heard.filter(({ kind }) => kind === 'items')).toEqual([SCENE, { ...SCENE, scene: 2 }]);
    other.close();
    other.close();
    expect(latest().heard.at(-1)).toEqual({ kind: 'forget', scene: 2 });
    expect([latest().isTerminated, lent]).toEqual([false, 1]);
    scene.close();
    expect([latest().isTerminated, lent]).toEqual([true, 0]);
  });
});

describe('a painting worker that fails', () => {
  it('lets go of who waits, is started anew with all that it has to know, and tells that frames are stale', async () => {
    let stale = 0;
    link.onStale(() => {
      stale += 1;
    });
    link.post({ kind: 'budget', bytes: 7 });
    const painted = scene.paint(REQUEST);
    latest().fail();
    await expect(painted).rejects.toBeInstanceOf(PainterLostError);
    expect(workers[0]!.isTerminated).toBe(true);
    vi.advanceTimersByTime(1);
    expect(workers).toHaveLength(2);
    // The channel to the pixels went with the worker before: the new one has another, before all else.
    expect(latest().heard).toEqual([PIXELS, SCENE, SOURCES, { kind: 'budget', bytes: 7 }]);
    expect(lent).toBe(1);
    expect([stale, link.trouble.getState()]).toEqual([1, false]);
    const again = scene.paint(REQUEST);
    latest().answer();
    expect(await again).toMatchObject({ isSharp: true });
  });

  it('twice in a row is said, rests before it is tried again, and is well with the next frame', async () => {
    const said: boolean[] = [];
    link.trouble.subscribe((isInTrouble) => said.push(isInTrouble));
    latest().fail();
    vi.advanceTimersByTime(1);
    latest().fail();
    expect(said).toEqual([true]);
    await expect(scene.paint(REQUEST)).rejects.toBeInstanceOf(PainterLostError);
    vi.advanceTimersByTime(1_000);
    expect(workers).toHaveLength(2);
    vi.advanceTimersByTime(5_000);
    expect(workers).toHaveLength(3);
    const painted = scene.paint(REQUEST);
    latest().answer();
    await painted;
    expect(said).toEqual([true, false]);
  });

  it('once in a long while is not said', () => {
    latest().fail();
    vi.advanceTimersByTime(60_000);
    latest().fail();
    vi.advanceTimersByTime(1);
    expect([workers.length, link.trouble.getState()]).toEqual([3, false]);
  });
});

import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Desk } from '../../../desk/index.ts';
import { createStore } from '../../../state/index.ts';
import type { Painting } from '../sheet/painting.ts';
import { VersionMaker } from './version-maker.ts';

vi.mock('../../../gather/index.ts', () => ({
  storeVersion: async () => ({ picture: 'p', tell: () => {} }),
  whyNot: String,
}));

/** A sheet that is painted, whose files are made when the test says so. */
function fake() {
  const store = createStore(() => ({
    facts: { change: 0, isAltered: false, taken: null, width: 9, height: 9 },
  }));
  const made: number[] = [];
  const asked: string[] = [];
  const waiting: (() => void)[] = [];
  const painting = {
    drawing: 'd',
    store,
    placement: {},
    get facts() {
      return store.getState().facts;
    },
    /** Of how it is when the file is done. */
    exported: (_: string, waits: boolean) => {
      asked.push(waits ? 'waits' : 'now');
      return new Promise((resolve) =>
        waiting.push(() => resolve({ file: new Blob(['x']), change: painting.facts.change })),
      );
    },
    putDown: () => asked.push('put down'),
    versioned: (_: string, change: number) => made.push(change),
  };
  const paint = () =>
    store.setState({ facts: { ...painting.facts, change: painting.facts.change + 1, isAltered: true } });
  const makeFile = async () => {
    waiting.shift()?.();
    await vi.advanceTimersByTimeAsync(1);
  };
  return { painting: painting as unknown as Painting, paint, made, asked, waiting, makeFile };
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('document', { addEventListener() {}, removeEventListener() {}, visibilityState: 'visible' });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const desk = { sync: {}, session: { id: 'b' }, say: () => {} } as unknown as Desk;
const about = { name: 'Study', place: () => {} };

describe('versions of what is painted', () => {
  it('are made at rest, one after the other, of all that was painted until then', async () => {
    const { painting, paint, made, waiting, makeFile } = fake();
    const maker = new VersionMaker(desk, painting, about);
    paint();
    await vi.advanceTimersByTimeAsync(5_000);
    paint();
    await vi.advanceTimersByTimeAsync(5_900);
    expect(waiting).toHaveLength(0);
    await vi.advanceTimersByTimeAsync(200);
    expect(waiting).toHaveLength(1);
    await makeFile();
    expect(made).toEqual([2]);
    await vi.advanceTimersByTimeAsync(60_000);
    expect(waiting).toHaveLength(0);
    maker.close();
  });

  it('that are asked for while one is made are one, and none where nothing was painted since', async () => {
    const { painting, paint, made, waiting, makeFile } = fake();
    const maker = new VersionMaker(desk, painting, about);
    paint();
    const first = maker.makeNow();
    paint();
    const [second, third] = [maker.makeNow(), maker.makeNow()];
    // The file that is made has it already.
    await makeFile();
    await Promise.all([first, second, third]);
    expect([made, waiting.length]).toEqual([[2], 0]);

    void maker.makeNow();
    await vi.advanceTimersByTimeAsync(1);
    expect(waiting).toHaveLength(0);
    paint();
    const one = maker.makeNow();
    await makeFile();
    paint();
    const others = [maker.makeNow(), maker.makeNow(), maker.makeNow()];
    await vi.advanceTimersByTimeAsync(1);
    expect(waiting).toHaveLength(1);
    await makeFile();
    await Promise.all([one, ...others]);
    expect(made).toEqual([2, 3, 4]);
    maker.close();
  });

  it('wait at rest for what is carried, until one is wanted at once', async () => {
    const { painting, paint, asked, made, makeFile } = fake();
    const maker = new VersionMaker(desk, painting, about);
    paint();
    await vi.advanceTimersByTimeAsync(6_100);
    expect(asked).toEqual(['waits']);
    const wanted = maker.makeNow();
    expect(asked).toEqual(['waits', 'put down']);
    await makeFile();
    await wanted;
    paint();
    const another = maker.makeNow();
    expect(asked).toEqual(['waits', 'put down', 'now']);
    await makeFile();
    await another;
    expect(made).toEqual([1, 2]);
    maker.close();
  });

  it('that failed at rest are tried again, and why is said once', async () => {
    const { painting, paint, made, makeFile } = fake();
    const said: string[] = [];
    const speaking = { ...desk, say: (words: string) => said.push(words) } as unknown as Desk;
    const maker = new VersionMaker(speaking, painting, about);
    const failing = painting as unknown as { exported: () => Promise<never> };
    const { exported } = failing;
    failing.exported = () => Promise.reject(new Error('no room'));
    paint();
    await vi.advanceTimersByTimeAsync(70_000);
    expect([made, said]).toEqual([[], ['no room']]);
    failing.exported = exported;
    await vi.advanceTimersByTimeAsync(30_000);
    await makeFile();
    expect([made, said]).toEqual([[1], ['no room']]);
    maker.close();
  });

  it('are made all the same after one failed', async () => {
    const { painting, paint, made, makeFile } = fake();
    const maker = new VersionMaker(desk, painting, about);
    paint();
    const failing = painting as unknown as { exported: () => Promise<never> };
    const { exported } = failing;
    failing.exported = () => Promise.reject(new Error('no room'));
    await expect(maker.makeNow()).rejects.toThrow('no room');
    failing.exported = exported;
    const again = maker.makeNow();
    await makeFile();
    await again;
    expect(made).toEqual([1]);
    maker.close();
  });
});

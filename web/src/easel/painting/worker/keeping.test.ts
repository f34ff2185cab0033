import { emptyTile, type KeptSheet, newLayers, PaintedSheet, type TilePixels } from '@miradero/core/paint';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { FromKeeper, ToKeeper } from '../messages.ts';
import { Keeping } from './keeping.ts';

const FRAME = { x: 0, y: 0, width: 3_000, height: 3_000 };

/** The end of the port on the side of what paints; what is told is kept to be looked at. */
class Port {
  readonly told: ToKeeper[] = [];
  onmessage: ((event: MessageEvent<FromKeeper>) => void) | null = null;

  postMessage(message: ToKeeper): void {
    this.told.push(message);
  }

  hear(message: FromKeeper): void {
    this.onmessage?.({ data: message } as MessageEvent<FromKeeper>);
  }

  /** Kinds of what was told since it was asked last, with how many tiles. */
  since(): string[] {
    return this.told
      .splice(0)
      .map((message) => (message.kind === 'pack' ? `pack ${message.tiles.length}` : message.kind));
  }
}

const painted = (at: number): TilePixels => {
  const tile = emptyTile();
  tile.set([at % 256, 1, 2, 255]);
  return tile;
};
const stateOf = (tiles: readonly (readonly [number, number])[]): KeptSheet => ({
  ...{ width: 3_000, height: 3_000, ppi: 300, frame: FRAME, reference: null, layers: newLayers(null) },
  ...{ tiles: { sketch: tiles }, done: [], undone: [], change: 4, version: null, isAltered: true },
});

let port: Port;
let sheet: PaintedSheet;
let keeping: Keeping;
beforeEach(() => {
  vi.useFakeTimers();
  port = new Port();
  sheet = new PaintedSheet(FRAME, newLayers(null));
  const about = { width: 3_000, height: 3_000, ppi: 300, reference: null, version: null };
  keeping = new Keeping(
    port as unknown as MessagePort,
    () => ({ sheet, about: { ...about, isAltered: true, change: 5 }, underWay: [] }),
    () => {},
    () => {},
  );
});
afterEach(() => vi.useRealTimers());

const paint = (count: number) => {
  for (let key = 0; key < count; key += 1) sheet.layer('sketch').tiles.set(key, painted(key));
};
/** The keeper packs whatever it is given. */
const packAll = () => {
  for (let last = port.told.at(-1); last?.kind === 'pack'; last = port.told.at(-1)) {
    port.hear({ kind: 'packed', memory: last.tiles.map(({ pixels }) => pixels.buffer) });
    if (port.told.at(-1) === last) break;
  }
};

describe('what is painted is kept', () => {
  it('some tiles at a time, then the state that names them; what is known is not sent again', async () => {
    void keeping.read('d');
    port.hear({ kind: 'none' });
    keeping.start();
    port.since();
    paint(70);
    keeping.keep(() => {});
    packAll();
    expect(port.since()).toEqual(['pack 32', 'pack 32', 'pack 6', 'save']);
    port.hear({ kind: 'saved', trouble: null });
    sheet.layer('sketch').tiles.set(3, painted(200));
    keeping.keep(() => {});
    packAll();
    expect(port.since()).toEqual(['pack 1', 'save']);
  });

  it('again with the next where it did not come to the disk', () => {
    keeping.start();
    paint(3);
    keeping.keep(() => {});
    packAll();
    port.hear({ kind: 'saved', trouble: 'full' });
    port.since();
    // Also where nothing is painted meanwhile: somebody may have made room.
    vi.advanceTimersByTime(5_000);
    expect(port.since()).toEqual([]);
    vi.advanceTimersByTime(10_000);
    packAll();
    expect(port.since()).toEqual(['pack 3', 'save']);
    port.hear({ kind: 'saved', trouble: null });
    vi.advanceTimersByTime(60_000);
    expect(port.since()).toEqual([]);
  });

  it('not before all that was kept has come, and under numbers that mean nothing else', async () => {
    const read = keeping.read('d');
    port.since();
    port.hear({ kind: 'found', state: stateOf([[0, 17]]) });
    const kept = await read;
    const old = painted(9);
    port.hear({ kind: 'row', row: 0, tiles: [{ tile: 17, pixels: old }] });
    expect((await kept!.rows.getReader().read()).value!.tiles).toHaveLength(1);
    sheet.layer('sketch').tiles.set(0, old);
    sheet.layer('sketch').tiles.set(1, painted(1));
    let isKept = false;
    keeping.keep(() => {
      isKept = true;
    });
    vi.advanceTimersByTime(10_000);
    expect(port.since()).toEqual([]);
    port.hear({ kind: 'past', tiles: [] });
    expect(await kept?.past).toEqual([]);
    keeping.start();
    packAll();
    const [pack, save] = port.told;
    expect(pack).toMatchObject({ kind: 'pack', tiles: [{ tile: 18 }] });
    expect(save).toMatchObject({
      kind: 'save',
      state: {
        tiles: {
          sketch: [
            [0, 17],
            [1, 18],
          ],
        },
      },
    });
    port.hear({ kind: 'saved', trouble: null });
    expect(isKept).toBe(true);
  });

  it('before a file of it is made, also where it was asked for while something was written', () => {
    keeping.start();
    paint(40);
    keeping.keep(() => {});
    keeping.export(1, 'png');
    packAll();
    // The file is of the next: something may have been painted since.
    expect(port.since()).toEqual(['pack 32', 'pack 8', 'save']);
    sheet.layer('sketch').tiles.set(0, painted(99));
    port.hear({ kind: 'saved', trouble: null });
    packAll();
    expect(port.since()).toEqual(['pack 1', 'save', 'export']);
  });
});

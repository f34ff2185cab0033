import { describe, expect, it } from 'vitest';
import { BRUSHES, createLayer, type Layer, PaintStroke, Pushing, tileKey } from './index.ts';

const FRAME = { x: 0, y: 0, width: 600, height: 400 };
const HARD = { ...BRUSHES.round, sizePx: 40, pressureTo: { size: false, opacity: false } };

const alphaAt = ({ tiles }: Layer, x: number, y: number): number =>
  tiles.get(tileKey({ column: x >> 8, row: y >> 8 }))?.[((y % 256) * 256 + (x % 256)) * 4 + 3] ?? 0;

/** A thick line across two tiles. */
function withLine(): Layer {
  const layer = createLayer('sketch', 'sketch');
  const stroke = new PaintStroke(layer, HARD, [10, 20, 30], FRAME);
  for (const x of [100, 500]) stroke.to([{ x, y: 200, pressure: 1 }]);
  stroke.end();
  return layer;
}
const point = (x: number, y: number) => ({ x, y, pressure: 1 });

describe('pushing what is painted', () => {
  it('takes it along, over the borders of tiles, and leaves what is beyond its reach', () => {
    const layer = withLine();
    expect(alphaAt(layer, 256, 240)).toBe(0);
    const push = new Pushing(layer, 60, FRAME);
    for (let y = 200; y <= 240; y += 4) push.to([point(256, y)]);
    const changes = push.end();
    // The line is 40 px wide and was pushed by 40 in its middle.
    expect(alphaAt(layer, 256, 240)).toBe(255);
    expect(alphaAt(layer, 256, 190)).toBe(0);
    expect(alphaAt(layer, 120, 200)).toBe(255);
    expect(alphaAt(layer, 480, 200)).toBe(255);
    expect(new Set(changes.map(({ key }) => key)).size).toBe(changes.length);
  });

  it('that is given up leaves every pixel as it was', () => {
    const layer = withLine();
    const before = new Map([...layer.tiles.keys].map((key) => [key, layer.tiles.get(key)]));
    const push = new Pushing(layer, 50, FRAME);
    for (const y of [200, 220, 250]) push.to([point(300, y)]);
    push.cancel();
    expect([...layer.tiles.keys].sort()).toEqual([...before.keys()].sort());
    for (const [key, pixels] of before) expect(layer.tiles.get(key)).toBe(pixels);
  });

  it('adds no paint where paint keeps to what is there', () => {
    const layer = { ...withLine(), keepsToPainted: true };
    const push = new Pushing(layer, 60, FRAME);
    for (let y = 200; y <= 240; y += 4) push.to([point(256, y)]);
    push.end();
    expect(alphaAt(layer, 256, 240)).toBe(0);
    expect(alphaAt(layer, 256, 190)).toBe(255);
  });
});

import { describe, expect, it } from 'vitest';
import { hexOfRgb, labToRgb, lchToLab, linearToSrgb } from '../colour/index.ts';
import { seeingOf, strokesOf, strokesToSvg, strongestContrast } from './index.ts';

const SIDE = 120;
function picture(colourAt: (x: number, y: number) => readonly [number, number, number]) {
  const data = new Uint8ClampedArray(SIDE * SIDE * 4);
  for (let pixel = 0; pixel < SIDE * SIDE; pixel += 1)
    data.set([...colourAt(pixel % SIDE, Math.floor(pixel / SIDE)), 255], pixel * 4);
  return { width: SIDE, height: SIDE, data };
}
const grey = (level: number) => [level, level, level] as const;
const at = ({ data }: { data: Uint8ClampedArray }, x: number, y = 60) =>
  [...data.slice((y * SIDE + x) * 4, (y * SIDE + x) * 4 + 3)] as [number, number, number];

describe('edges', () => {
  const seen = (colourAt: Parameters<typeof picture>[0]) => {
    const pixels = picture(colourAt);
    seeingOf('edges')!.see(pixels, 24);
    return pixels;
  };

  it('are hard within a few pixels, soft over many, none where nothing alters', () => {
    const hard = seen((x) => grey(x < 60 ? 60 : 200));
    const [r, g, b] = at(hard, 60);
    expect(Math.max(r, g, b)).toBeLessThan(40);
    const soft = seen((x) => grey(60 + (140 * Math.min(24, Math.max(0, x - 48))) / 24));
    const [sr, , sb] = at(soft, 60);
    expect(sb - sr).toBeGreaterThan(60);
    for (const pixels of [hard, soft]) {
      const [one, two, three] = at(pixels, 12);
      expect([two, three]).toEqual([one, one]);
    }
  });

  it('are lost where colour alters and value does not', () => {
    const colour = (h: number) => {
      const hex = hexOfRgb(labToRgb(lchToLab({ l: 55, c: 35, h })));
      return [1, 3, 5].map((from) => Number.parseInt(hex.slice(from, from + 2), 16)) as unknown as [
        number,
        number,
        number,
      ];
    };
    const [r, , b] = at(
      seen((x) => (x < 60 ? colour(40) : colour(250))),
      60,
    );
    expect(r - b).toBeGreaterThan(60);
  });
});

describe('where contrast sits', () => {
  const pixels = picture((x, y) =>
    grey(Math.hypot(x - 90, y - 30) < 12 ? ((x >> 1) % 2 === 0 ? 20 : 240) : 120 + (x % 3)),
  );

  it('is found', () => {
    const { x, y, spread } = strongestContrast(pixels, 8);
    expect(Math.hypot(x - 0.75, y - 0.25)).toBeLessThan(0.08);
    expect(spread).toBeGreaterThan(0.2);
    expect(
      strongestContrast(
        picture(() => grey(90)),
        8,
      ).spread,
    ).toBeLessThan(0.001);
  });

  it('stays as it is while the rest sinks', () => {
    const seen = { ...pixels, data: pixels.data.slice() };
    seeingOf('focus')!.see(seen, 8);
    const [loud] = at(seen, 90, 30);
    expect(Math.abs(loud - at(pixels, 90, 30)[0])).toBeLessThan(30);
    expect(Math.abs(at(seen, 20, 100)[0] - 121)).toBeLessThan(3);
  });
});

describe('an outline in strokes', () => {
  const box = picture((x, y) => grey(x > 30 && x < 90 && y > 40 && y < 80 ? 40 : 220));

  it('goes around what is there, the most telling first', () => {
    const strokes = strokesOf(box, { detailPx: 2, most: 20, tolerancePx: 1 });
    expect(strokes.length).toBeGreaterThan(0);
    const points = strokes.flatMap((stroke) => stroke.points);
    for (const { x, y } of points) {
      const off = Math.min(Math.abs(x - 30.5), Math.abs(x - 90), Math.abs(y - 40.5), Math.abs(y - 80));
      expect(off).toBeLessThan(4);
    }
    // All four sides.
    for (const [of, value] of [
      ['x', 30.5],
      ['x', 90],
      ['y', 40.5],
      ['y', 80],
    ] as const)
      expect(points.some((point) => Math.abs(point[of] - value) < 3)).toBe(true);
    expect(strokes.map(({ weight }) => weight)).toEqual(
      strokes.map(({ weight }) => weight).sort((a, b) => b - a),
    );
  });

  it('is no more than so many lines', () => {
    const busy = picture((x, y) => grey((Math.floor(x / 12) + Math.floor(y / 12)) % 2 === 0 ? 30 : 220));
    const all = strokesOf(busy, { detailPx: 1, most: 500, tolerancePx: 0.5 });
    expect(all.length).toBeGreaterThan(5);
    expect(strokesOf(busy, { detailPx: 1, most: 3, tolerancePx: 0.5 })).toEqual(all.slice(0, 3));
    expect(
      strokesOf(
        picture(() => grey(linearToSrgb(0.2) * 255)),
        { detailPx: 1, most: 9, tolerancePx: 1 },
      ),
    ).toEqual([]);
  });

  it('is an SVG of lines', () => {
    const strokes = strokesOf(box, { detailPx: 2, most: 20, tolerancePx: 1 });
    const svg = strokesToSvg(strokes, box, 2);
    expect(svg.match(/<path /g)).toHaveLength(strokes.length);
    expect(svg).toContain('viewBox="0 0 120 120"');
    expect(svg).not.toContain('NaN');
  });
});

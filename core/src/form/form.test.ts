import { describe, expect, it } from 'vitest';
import { hexOfRgb, labToRgb, lchToLab, munsellValueToGrey8 } from '../colour/index.ts';
import { maskOfPolygon, type Point } from '../geometry/index.ts';
import { type SmallPicture, seeSmall, seeSubtle, standApart } from './index.ts';

const SIDE = 96;
type Colour = readonly [number, number, number];

function picture(colourAt: (x: number, y: number) => Colour) {
  const data = new Uint8ClampedArray(SIDE * SIDE * 4);
  for (let pixel = 0; pixel < SIDE * SIDE; pixel += 1)
    data.set([...colourAt(pixel % SIDE, Math.floor(pixel / SIDE)), 255], pixel * 4);
  return { width: SIDE, height: SIDE, data };
}
const grey = (value: number): Colour => {
  const level = munsellValueToGrey8(value);
  return [level, level, level];
};
function lch(l: number, c: number, h: number): Colour {
  const hex = hexOfRgb(labToRgb(lchToLab({ l, c, h })));
  return [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)) as unknown as Colour;
}
const BOX: readonly Point[] = [
  { x: 24, y: 24 },
  { x: 72, y: 24 },
  { x: 72, y: 72 },
  { x: 24, y: 72 },
];
const MASK = maskOfPolygon(BOX, SIDE, SIDE);
const isIn = (x: number, y: number) => MASK[y * SIDE + x] !== 0;

describe('a form as it is seen small', () => {
  it('holds where it is unlike its ground, at every size', () => {
    const pixels = picture((x, y) => (isIn(x, y) ? grey(2) : grey(7)));
    for (const { holds } of seeSmall(pixels, MASK, [48, 24])) expect(holds).toBeGreaterThan(0.95);
    const [small] = seeSmall(pixels, MASK, [24]) as [SmallPicture];
    expect([small.width, small.height]).toEqual([24, 24]);
    expect([...small.data.subarray(0, 4)]).toEqual([...grey(7), 255]);
  });

  it('is lost where half of it is like its ground', () => {
    const pixels = picture((x, y) => (isIn(x, y) && x < 48 ? grey(2) : grey(7)));
    const [{ holds }] = seeSmall(pixels, MASK, [48]) as [SmallPicture];
    expect(holds).toBeGreaterThan(0.4);
    expect(holds).toBeLessThan(0.6);
  });

  it('that is fine dissolves as it gets smaller', () => {
    // Spokes, two pixels wide and two apart.
    const spokes = MASK.map((is, at) => (is && (at % SIDE) % 4 < 2 ? 1 : 0));
    const pixels = picture((x, y) => (spokes[y * SIDE + x] ? grey(1) : grey(8)));
    const held = (side: number) => seeSmall(pixels, spokes, [side])[0]!.holds;
    expect(held(24)).toBeLessThan(0.6);
    expect(held(24)).toBeLessThan(held(96) + 1e-9);
  });

  it('is nothing without form or ground', () => {
    const pixels = picture(() => grey(5));
    expect(seeSmall(pixels, new Uint8Array(SIDE * SIDE), [24])).toEqual([]);
    expect(seeSmall(pixels, new Uint8Array(SIDE * SIDE).fill(1), [24])).toEqual([]);
  });
});

describe('how a form stands off from its ground', () => {
  it('is in value steps, lighter or darker', () => {
    const { places, value, darker, lighter, lost } = standApart(
      picture((x, y) => (isIn(x, y) ? grey(3) : grey(6))),
      BOX,
      MASK,
    )!;
    expect(places.length).toBeGreaterThan(90);
    expect(value).toBeCloseTo(3, 1);
    expect([darker, lighter, lost]).toEqual([1, 0, 0]);
    // Whichever way it was drawn around.
    const other = standApart(
      picture((x, y) => (isIn(x, y) ? grey(6) : grey(3))),
      [...BOX].reverse(),
      MASK,
    )!;
    expect(other.lighter).toBe(1);
  });

  it('is lost where it is as its ground is', () => {
    const { lost, darker, places } = standApart(
      picture((x, y) => (isIn(x, y) && x < 60 ? grey(3) : x < 60 ? grey(7) : grey(5))),
      BOX,
      MASK,
    )!;
    expect(lost).toBeGreaterThan(0.3);
    expect(lost + darker).toBeCloseTo(1, 6);
    for (const { x, isLost } of places) if (x > 0.68) expect(isLost).toBe(true);
  });

  it('finds the ground’s colour in the shadows', () => {
    const shadowsOf = (shadow: Colour) =>
      standApart(
        picture((x, y) => (isIn(x, y) ? (y < 48 ? lch(75, 40, 70) : shadow) : lch(50, 40, 270))),
        BOX,
        MASK,
      )!.groundInShadows!;
    // The same hue darker, half of the way to the ground's, and the ground's.
    expect(shadowsOf(lch(35, 19, 70))).toBeLessThan(0.15);
    expect(shadowsOf(lch(35, 1, 0))).toBeGreaterThan(0.3);
    expect(shadowsOf(lch(35, 26, 270))).toBeGreaterThan(0.85);
    expect(
      standApart(
        picture((x, y) => (isIn(x, y) ? grey(2) : grey(6))),
        BOX,
        MASK,
      )!.groundInShadows,
    ).toBeUndefined();
  });
});

describe('what is subtle', () => {
  it('is stretched until it is seen, and told in steps and degrees', () => {
    // From left to right 0.4 steps lighter.
    const ramp = picture((x) => grey(5 + (0.4 * (x - 24)) / 48));
    const found = seeSubtle(ramp, MASK)!;
    expect(found.valueRange).toBeCloseTo(0.4, 1);
    expect(found.gain.value).toBeGreaterThan(10);
    expect(found.to.x - found.from.x).toBeGreaterThan(0.3);
    expect(found.shift.value).toBeGreaterThan(0.2);
    expect(found.jumps).toEqual([]);
    const seen = (x: number) => found.data[(24 * found.width + x) * 4 + 1]!;
    expect(seen(46) - seen(2)).toBeGreaterThan(120);
    expect([found.width, found.height]).toEqual([48, 48]);
    expect(found.lineStep).toBe(0.05);
    // Around the region there is nothing.
    const corner = maskOfPolygon([BOX[0]!, BOX[1]!, BOX[2]!], SIDE, SIDE);
    const half = seeSubtle(ramp, corner)!;
    expect(half.data[(47 * half.width + 1) * 4 + 3]).toBe(0);
  });

  it('has its hue shift stretched, too', () => {
    // From left to right 24° of hue, from orange towards green.
    const hues = picture((x) => lch(60, 20, 60 + (24 * (x - 24)) / 48));
    const { gain, shift, from, to } = seeSubtle(hues, MASK)!;
    expect(gain.colour).toBeGreaterThan(3);
    expect(to.x === from.x).toBe(false);
    expect(shift.hueDeg! * Math.sign(to.x - from.x)).toBeCloseTo(19, -1);
    expect(shift.warmth * Math.sign(to.x - from.x)).toBeLessThan(-0.02);
  });

  it('names what jumps, and how many steps soften it', () => {
    const found = seeSubtle(
      picture((x) => grey(x < 48 ? 4 : 6)),
      MASK,
    )!;
    expect(found.jumps.length).toBeGreaterThan(0);
    const [jump] = found.jumps;
    expect(Math.abs(jump!.x - 0.5)).toBeLessThan(0.05);
    expect(Math.abs(jump!.value)).toBeCloseTo(2, 1);
    expect(jump!.softenedBy).toBeGreaterThanOrEqual(9);
  });

  it('is nothing of nothing, and still of one colour', () => {
    expect(
      seeSubtle(
        picture(() => grey(5)),
        new Uint8Array(SIDE * SIDE),
      ),
    ).toBeUndefined();
    const even = seeSubtle(
      picture(() => grey(5)),
      MASK,
    )!;
    expect(even.valueRange).toBeCloseTo(0, 3);
    expect(even.jumps).toEqual([]);
  });
});

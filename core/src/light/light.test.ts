import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { linearToSrgb, rgbOfHex } from '../colour/index.ts';
import {
  angleBetween,
  ballShapes,
  directionOf,
  estimateLight,
  LEAST_FIT,
  type LightColours,
  type LightDirection,
  NO_COLOURS,
  suggestLight,
  turnedAs,
  vectorOf,
  wordsOfDirection,
} from './index.ts';
import { capOutline } from './lit-ball.ts';

const directions = fc.record({
  azimuthDeg: fc.double({ min: 0, max: 359.9, noNaN: true }),
  elevationDeg: fc.double({ min: -80, max: 89, noNaN: true }),
});

const SIDE = 120;
const RADIUS = 50;

/** A matte ball in the middle of a grey ground. @param long - half its length by its height */
function ballUnder(
  direction: LightDirection,
  { strength = 0.6, even = 0.12, slope = 0, long = 1, ground = 0.2 } = {},
) {
  const light = vectorOf(direction);
  const data = new Uint8ClampedArray(SIDE * SIDE * 4);
  const mask = new Uint8Array(SIDE * SIDE);
  for (let pixel = 0; pixel < SIDE * SIDE; pixel += 1) {
    const [x, y] = [((pixel % SIDE) - 60) / RADIUS, ((Math.floor(pixel / SIDE) - 60) / RADIUS) * long];
    const out = x * x + y * y;
    let level = ground;
    if (out <= 1) {
      mask[pixel] = 1;
      const [nx, ny, nz] = [x, y * long, Math.sqrt(1 - out)];
      const length = Math.hypot(nx, ny, nz);
      const lit = (nx * light[0] + ny * light[1] + nz * light[2]) / length;
      level = even - (slope * ny) / length + strength * Math.max(0, lit);
    }
    data.set([...new Array(3).fill(255 * linearToSrgb(Math.max(0, level))), 255], pixel * 4);
  }
  return { data, mask, width: SIDE, height: SIDE };
}
const estimateOf = ({ data, mask, width }: ReturnType<typeof ballUnder>) =>
  estimateLight(turnedAs(data, mask, width)!);

describe('a direction', () => {
  it('is a vector and back', () => {
    fc.assert(
      fc.property(directions, (one) => {
        expect(angleBetween(directionOf(vectorOf(one)), one)).toBeLessThan(1e-3);
      }),
    );
  });

  it('has words', () => {
    expect(wordsOfDirection({ azimuthDeg: 315, elevationDeg: 40 })).toBe('from above left, in front');
    expect(wordsOfDirection({ azimuthDeg: 92, elevationDeg: 0 })).toBe('from the right');
    expect(wordsOfDirection({ azimuthDeg: 0, elevationDeg: -40 })).toBe('from above, behind');
    expect(wordsOfDirection({ azimuthDeg: 200, elevationDeg: 88 })).toBe('from the front');
  });
});

describe('light on a matte ball', () => {
  it('is found where it comes from, whatever lights the rest, and of a longer one too', () => {
    for (const azimuthDeg of [0, 130, 300])
      for (const elevationDeg of [-20, 5, 50])
        for (const more of [{}, { slope: 0.05 }, { strength: 0.3, even: 0.3 }, { long: 1.3 }]) {
          const direction = { azimuthDeg, elevationDeg };
          const found = estimateOf(ballUnder(direction, more))!;
          expect(angleBetween(found, direction), JSON.stringify([direction, more])).toBeLessThan(10);
          expect(found.fit).toBeGreaterThan(0.9);
        }
  });

  it('is not claimed where it explains too little', () => {
    const { data, mask, width } = ballUnder({ azimuthDeg: 20, elevationDeg: 30 });
    const stripes = data.map((level, at) =>
      at % 4 === 3 ? 255 : (at >> 4) % 2 === 0 ? 30 : level > 0 ? 220 : 0,
    );
    expect(estimateLight(turnedAs(stripes, mask, width)!)).toBeUndefined();
    const flat = data.map((_, at) => (at % 4 === 3 ? 255 : 128));
    expect(estimateLight(turnedAs(flat, mask, width)!)).toBeUndefined();
    expect(LEAST_FIT).toBe(0.55);
  });

  it('is nothing where there is hardly a form', () => {
    const { data, width } = ballUnder({ azimuthDeg: 0, elevationDeg: 0 });
    const few = new Uint8Array(SIDE * SIDE);
    few.fill(1, 100, 108);
    expect(turnedAs(data, few, width)).toBeUndefined();
    expect(turnedAs(data, new Uint8Array(SIDE * SIDE), width)).toBeUndefined();
    expect(
      turnedAs(new Uint8ClampedArray(data.length), new Uint8Array(SIDE * SIDE).fill(1), width),
    ).toBeUndefined();
  });
});

describe('what is suggested', () => {
  it('goes from light to shadow, with a cast shadow only where there is one', () => {
    const direction = { azimuthDeg: 300, elevationDeg: 30 };
    const ball = ballUnder(direction);
    const { colours, estimate } = suggestLight(ball, ball.mask)!;
    expect(angleBetween(estimate!, direction)).toBeLessThan(10);
    const lightness = (part: keyof LightColours) => rgbOfHex(colours[part]!).g;
    expect(lightness('light')).toBeGreaterThan(lightness('half-tone'));
    expect(lightness('half-tone')).toBeGreaterThan(lightness('core shadow'));
    expect(colours['cast shadow']).toBeNull();
    for (let row = 60; row < 112; row += 1)
      for (let column = 100; column < SIDE; column += 1)
        if (ball.mask[row * SIDE + column] === 0) ball.data.set([20, 20, 24], (row * SIDE + column) * 4);
    expect(suggestLight(ball, ball.mask)!.colours['cast shadow']).toBe('#141418');
  });

  it('goes by lightness alone where no light is claimed', () => {
    const { data, mask, width } = ballUnder({ azimuthDeg: 20, elevationDeg: 30 });
    const stripes = data.map((_, at) => (at % 4 === 3 ? 255 : (at >> 4) % 2 === 0 ? 30 : 220));
    const { colours, estimate } = suggestLight({ data: stripes, width, height: SIDE }, mask)!;
    expect(estimate).toBeUndefined();
    expect(colours.light).toBe('#dcdcdc');
    expect(colours['core shadow']).toBe('#1e1e1e');
  });
});

function isWithin(
  [x, y]: readonly [number, number],
  outline: readonly (readonly [number, number])[],
): boolean {
  let inside = false;
  for (const [index, [ax, ay]] of outline.entries()) {
    const [bx, by] = outline[(index + 1) % outline.length]!;
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

describe('a lit ball', () => {
  const COLOURS: LightColours = {
    ...{ highlight: '#fff6e0', light: '#d8b080', 'half-tone': '#a87850' },
    ...{ 'core shadow': '#402820', 'reflected light': '#605048', 'cast shadow': '#201818' },
  };

  it('is turned to the light just where its caps say', () => {
    fc.assert(
      fc.property(
        directions,
        fc.double({ min: -0.95, max: 0.95, noNaN: true }),
        fc.double({ min: 0, max: 0.93, noNaN: true }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        (direction, cosine, out, angle) => {
          const to = vectorOf(direction);
          const [x, y] = [out * Math.cos(angle), out * Math.sin(angle)];
          const turned = x * to[0] + y * to[1] + Math.sqrt(1 - out * out) * to[2];
          // Corners cut the curve a little short.
          fc.pre(Math.abs(turned - cosine) > 0.02);
          const outline = capOutline(to, cosine);
          expect(outline !== undefined && isWithin([x, y], outline)).toBe(turned > cosine);
        },
      ),
      { numRuns: 2_000 },
    );
  });

  it('is painted in exactly the colours it is given', () => {
    const fills = new Set(ballShapes(COLOURS, { azimuthDeg: 310, elevationDeg: 30 }).map(({ fill }) => fill));
    for (const colour of Object.values(COLOURS)) expect(fills).toContain(colour);
  });

  it('does without what a form has none of', () => {
    const shapes = (colours: Partial<LightColours>, direction = { azimuthDeg: 310, elevationDeg: 30 }) =>
      ballShapes({ ...NO_COLOURS, ...colours }, direction);
    expect(shapes({})).toEqual([]);
    expect(shapes({ light: '#808080' }).map(({ fill }) => fill)).toEqual(['#808080']);
    // Light from below throws no shadow on the ground.
    const fromBelow = shapes(
      { light: '#808080', 'cast shadow': '#101010' },
      { azimuthDeg: 180, elevationDeg: 10 },
    );
    expect(fromBelow.map(({ fill }) => fill)).toEqual(['#808080']);
    // A light from behind mirrors nowhere.
    expect(shapes({ highlight: '#ffffff' }, { azimuthDeg: 0, elevationDeg: -89 })).toEqual([]);
  });

  it('is painted for every direction', () => {
    fc.assert(
      fc.property(directions, (direction) => {
        for (const { d } of ballShapes(COLOURS, direction)) expect(d).not.toContain('NaN');
      }),
    );
  });
});

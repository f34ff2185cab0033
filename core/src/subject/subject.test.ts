import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalAzimuth } from '../geometry/index.ts';
import type { SmallPixels } from '../picture/index.ts';
import type { Picture, Subject, View } from '../schema/index.ts';
import {
  BANDS,
  bandOf,
  betterOf,
  cellWords,
  coverageOf,
  lightFromForm,
  lightOf,
  nearLensWords,
  partLines,
  proposedDistance,
  rankedByDetail,
  SECTORS,
  type Serving,
  sectorMiddleDeg,
  sectorOf,
} from './index.ts';

const view = (part: Partial<View> = {}): View => ({
  ...{ azimuthDeg: null, elevationDeg: null, lightAzimuthDeg: null, lightElevationDeg: null, distance: null },
  ...part,
});

describe('the lines of a checklist', () => {
  const parts = [
    { id: 'hull', name: 'hull', parts: [{ id: 'plates', name: 'plates' }] },
    { id: 'mast', name: 'mast', parts: [] },
  ];

  it('stand in order, inner ones below theirs', () => {
    const lines = partLines(parts, undefined);
    expect(lines.map(({ id, depth }) => [id, depth])).toEqual([
      ['hull', 0],
      ['plates', 1],
      ['mast', 0],
    ]);
    expect(lines.every(({ coverage }) => coverage === undefined)).toBe(true);
  });

  it('tell what is known of them, and nothing of one that was just named', () => {
    const known = coverageOf({ ...subject, parts: parts.slice(0, 1) }, [serving('a', ['hull'])]);
    const [hull, , mast] = partLines(parts, known);
    expect(hull?.coverage?.pictures).toEqual(['a']);
    expect(mast).toEqual({ id: 'mast', name: 'mast', depth: 0, coverage: undefined });
  });
});

describe('cells of views', () => {
  it('the middle of every sector lies in it, however often one goes round', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: SECTORS - 1 }),
        fc.integer({ min: -4, max: 4 }),
        (sector, turns) => {
          expect(sectorOf(sectorMiddleDeg(sector) + 360 * turns)).toBe(sector);
        },
      ),
    );
    expect([0, 14, 16, 90, -90, 180, -180].map(sectorOf)).toEqual([0, 0, 1, 3, 9, 6, 6]);
    expect([190, -190, 540, 0].map(normalAzimuth)).toEqual([-170, 170, 180, 0]);
  });

  it('every elevation has one band, and each band holds its own middle', () => {
    for (const [band, { middle }] of BANDS.entries()) expect(bandOf(middle)).toBe(band);
    expect([-90, -11, -10, 0, 19.9, 20, 90].map(bandOf)).toEqual([0, 0, 1, 1, 1, 2, 3]);
    expect(() => bandOf(91)).toThrow(RangeError);
    expect(cellWords(0, 1)).toBe('front, level');
    expect(cellWords(3, 2)).toBe('left side, raised');
  });

  it('light is called by where it comes from, and by nothing where nobody said', () => {
    const from = (lightAzimuthDeg: number | null, lightElevationDeg: number | null) =>
      lightOf(view({ lightAzimuthDeg, lightElevationDeg }));
    expect(from(0, 20)).toBe('from the front');
    expect(from(80, 20)).toBe('from the right');
    expect(from(-80, 20)).toBe('from the left');
    expect(from(170, 5)).toBe('from behind');
    expect(from(170, 70)).toBe('from above');
    expect(from(null, null)).toBeUndefined();
  });
});

const subject: Subject = {
  ...{ id: 's', name: 'The ferry', isPutAway: false, pictures: 0 },
  parts: [
    { id: 'hull', name: 'hull', parts: [{ id: 'plates', name: 'plates' }] },
    { id: 'mast', name: 'lamp mast', parts: [] },
  ],
};
const serving = (id: string, parts: readonly string[], more: Partial<Serving> = {}): Serving => ({
  ...{ id, parts, view: undefined, isToScale: false, modelling: 5 },
  ...more,
});

describe('coverage', () => {
  it('counts pictures of a part of a part for both, and zero where there is none', () => {
    const { parts, gaps } = coverageOf(subject, [serving('a', ['plates']), serving('b', ['hull', 'plates'])]);
    expect(parts.map(({ name, pictures, depth }) => [name, pictures, depth])).toEqual([
      ['hull', ['a', 'b'], 0],
      ['plates', ['a', 'b'], 1],
      ['lamp mast', [], 0],
    ]);
    expect(gaps.filter(({ kind }) => kind === 'part').map(({ part }) => part)).toEqual(['mast']);
    expect(gaps[0]!.words).toBe('The ferry: lamp mast');
  });

  it('a picture fills its cell, its light and its step, and the gap for it goes', () => {
    const seen = view({
      azimuthDeg: 92,
      elevationDeg: 4,
      lightAzimuthDeg: -70,
      lightElevationDeg: 15,
      distance: 'near',
    });
    const before = coverageOf(subject, []);
    const after = coverageOf(subject, [serving('a', ['s'], { view: seen })]);
    expect(after.cells[1 * SECTORS + 3]).toEqual(['a']);
    expect(after.lights['from the left']).toBe(1);
    expect(after.distances).toEqual({ near: 1, middle: 0, far: 0 });
    const kinds = (kind: string, { gaps }: typeof after) => gaps.filter((gap) => gap.kind === kind);
    expect(kinds('light', after)).toHaveLength(kinds('light', before).length - 1);
    expect(kinds('distance', after)).toHaveLength(2);
    // Before, the whole level band was one gap; a picture at the left leaves the run round the back and front.
    expect(kinds('view', before).some(({ words }) => words.endsWith('any view level'))).toBe(true);
    const level = kinds('view', after).filter(({ band }) => band === 1);
    expect(level).toHaveLength(1);
    expect(level[0]!.sector).toBe(9);
  });

  it('a model fills nothing and lacks no view: it is turned to any', () => {
    const counted = coverageOf(subject, [
      serving('m', ['s', 'hull'], { isModel: true }),
      serving('a', ['s']),
    ]);
    expect(counted.withoutView).toBe(1);
    expect(counted.cells.flat()).toEqual([]);
    expect(counted.parts[0]).toMatchObject({ name: 'hull', pictures: ['m'] });
  });

  it('a run of empty sectors is one gap, also across the front', () => {
    const at = (azimuthDeg: number) =>
      serving(String(azimuthDeg), ['s'], { view: view({ azimuthDeg, elevationDeg: 0 }) });
    const covered = Array.from({ length: SECTORS }, (_, sector) => sector).filter(
      (sector) => ![11, 0, 1, 6].includes(sector),
    );
    const { gaps } = coverageOf(
      subject,
      covered.map((sector) => at(sectorMiddleDeg(sector))),
    );
    const level = gaps.filter(({ kind, band }) => kind === 'view' && band === 1);
    expect(level.map(({ sector }) => sector).sort()).toEqual([0, 6]);
    expect(level[0]!.sector).toBe(0);
  });

  it('every cell is counted once, whatever pictures there are', () => {
    const some = fc.array(
      fc.record({
        azimuthDeg: fc.integer({ min: -180, max: 180 }),
        elevationDeg: fc.integer({ min: -90, max: 90 }),
      }),
      { maxLength: 40 },
    );
    fc.assert(
      fc.property(some, (views) => {
        const pictures = views.map((one, index) => serving(String(index), ['s'], { view: view(one) }));
        const { cells, withoutView, gaps } = coverageOf(subject, pictures);
        expect(cells.flat()).toHaveLength(views.length);
        expect(withoutView).toBe(0);
        expect(gaps.every(({ weight }) => weight > 0 && weight <= 1)).toBe(true);
        expect([...gaps].sort((a, b) => b.weight - a.weight)).toEqual(gaps);
        // A cell with a picture is nobody's gap.
        for (const { kind, sector, band } of gaps)
          if (kind === 'view') expect(cells[band! * SECTORS + sector!]).toEqual([]);
      }),
    );
  });

  it('says what is seen in flat light alone, and what no picture shows to scale', () => {
    const flat = serving('a', ['hull'], { modelling: 1.8 });
    const raking = serving('b', ['hull'], { modelling: 5 });
    const plan = serving('c', ['hull'], { modelling: 0.5, isToScale: true });
    const of = (pictures: Serving[]) => coverageOf(subject, pictures).parts[0]!;
    expect(of([flat]).isFlatOnly).toBe(true);
    expect(of([flat, raking]).isFlatOnly).toBe(false);
    // A drawing has no light; what was not measured says nothing.
    expect(of([plan]).isFlatOnly).toBe(false);
    expect(of([serving('d', ['hull'], { modelling: null })]).isFlatOnly).toBe(false);
    const kinds = (pictures: Serving[]) => coverageOf(subject, pictures).gaps.map(({ kind }) => kind);
    expect(kinds([flat])).toContain('flat');
    expect(kinds([flat])).toContain('scale');
    expect(kinds([flat, plan])).not.toContain('scale');
  });
});

/** A matt ball in a square, lit from one direction. */
function ball(azimuthDeg: number, elevationDeg: number, side = 120): SmallPixels {
  const [turn, rise] = [(azimuthDeg * Math.PI) / 180, (elevationDeg * Math.PI) / 180];
  const light = [Math.sin(turn) * Math.cos(rise), Math.sin(rise), Math.cos(turn) * Math.cos(rise)] as const;
  const data = new Uint8ClampedArray(side * side * 4);
  for (let at = 0; at < side * side; at += 1) {
    const x = ((at % side) + 0.5 - side / 2) / (side * 0.4);
    const y = (side / 2 - Math.floor(at / side) - 0.5) / (side * 0.4);
    const r2 = x * x + y * y;
    const lit = r2 < 1 ? Math.max(0, x * light[0] + y * light[1] + Math.sqrt(1 - r2) * light[2]) : 0;
    const linear = r2 < 1 ? 0.06 + 0.7 * lit : 0.2;
    const grey = 255 * (1.055 * linear ** (1 / 2.4) - 0.055);
    data.set([grey, grey, grey, 255], at * 4);
  }
  return { width: side, height: side, data };
}
const BOUNDS = { x: 0.1, y: 0.1, width: 0.8, height: 0.8 };

describe('light by the shading of a round form', () => {
  it.each([
    [0, 20],
    [45, 30],
    [-70, 10],
    [90, 45],
    [30, -25],
    [-110, 20],
  ])('from %d° round and %d° up is found within 8°', (azimuthDeg, elevationDeg) => {
    const found = lightFromForm(ball(azimuthDeg, elevationDeg), BOUNDS)!;
    expect(Math.abs(normalAzimuth(found.azimuthDeg - azimuthDeg))).toBeLessThan(8);
    expect(Math.abs(found.elevationDeg - elevationDeg)).toBeLessThan(8);
    expect(found.fit).toBeGreaterThan(0.9);
  });

  it('nothing is said of what is no shaded form', () => {
    const stripes = ball(0, 0);
    for (let at = 0; at < stripes.data.length; at += 4) {
      const tone = (at / 4) % 12 < 6 ? 40 : 210;
      stripes.data.fill(tone, at, at + 3);
    }
    expect(lightFromForm(stripes, BOUNDS)).toBeUndefined();
    expect(
      lightFromForm({ width: 4, height: 4, data: new Uint8ClampedArray(64).fill(128) }, BOUNDS),
    ).toBeUndefined();
  });
});

const measured = (width: number, sharpness: number, bytes = 1_000, id = 'p') =>
  ({
    ...{ id, width, height: width, bytes, purposes: [] as Picture['purposes'] },
    measures: { sharpness, sharpnessGrid: Array.from({ length: 64 }, () => sharpness) },
  }) as unknown as Picture;

describe('what is proposed, ranked and warned of', () => {
  it('distance is proposed by the lens alone, and says so', () => {
    const by = (focalLength35Mm: number | undefined) =>
      proposedDistance({ facts: focalLength35Mm ? { focalLength35Mm } : {} });
    expect(by(24)).toMatchObject({ value: 'near' });
    expect(by(50)).toMatchObject({ value: 'middle', because: 'about, by its lens of 50 mm' });
    expect(by(135)).toMatchObject({ value: 'far' });
    expect(by(undefined)).toBeUndefined();
  });

  it('a near lens is warned of only from near', () => {
    expect(nearLensWords({ facts: { focalLength35Mm: 28 } }, null)).toContain('28 mm');
    expect(nearLensWords({ facts: { focalLength35Mm: 28 } }, 'far')).toBeUndefined();
    expect(nearLensWords({ facts: { focalLength35Mm: 50 } }, 'near')).toBeUndefined();
  });

  it('candidates are ranked by what they resolve: pixels as far as they are sharp', () => {
    const [large, soft, small] = [measured(2000, 0.4), measured(4000, 0.1), measured(1000, 0.5)];
    expect(rankedByDetail([soft, small, large])).toEqual([large, small, soft]);
    const unmeasured = { ...large, measures: null };
    expect(rankedByDetail([unmeasured, small])[1]).toBe(unmeasured);
  });

  it('a marked region counts instead of the whole', () => {
    const region = { x: 0, y: 0, width: 0.25, height: 0.25 };
    const marked = {
      ...measured(4000, 0.3),
      purposes: [{ purpose: 'detail' as const, isNot: false, region }],
    };
    const [first] = rankedByDetail([marked as Picture, measured(2000, 0.4)]);
    expect(first!.width).toBe(2000);
  });

  it('of two copies the better resolves more; else it has more pixels, else more bytes', () => {
    const [sharp, soft] = [measured(1000, 0.4), measured(1400, 0.2)];
    expect(betterOf(sharp, soft)).toBe(sharp);
    const [wide, narrow] = [measured(1000, 0.39, 10), measured(990, 0.39, 900)];
    expect(betterOf(narrow, wide)).toBe(wide);
    const [light, heavy] = [measured(1000, 0.4, 100), measured(1000, 0.4, 900)];
    expect(betterOf(light, heavy)).toBe(heavy);
  });
});

import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { detailOf, type Measures, sharpnessOf } from '@miradero/core/picture';
import { coverageOf, FLAT_BELOW, resolvedLines, SECTORS, type Serving } from '@miradero/core/subject';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { measuresOfPicture } from '../../server/src/pixels/measures-of.ts';
import { SUBJECTS, saidOf } from '../sorting.ts';
import type { Truth } from './truth.ts';

/** What is measured of pictures and subjects, held against what the renderer knows. */
const PICTURES = fileURLToPath(new URL('../pictures/', import.meta.url));
const truthOf = (file: string) => JSON.parse(readFileSync(`${PICTURES}${file}.truth.json`, 'utf8')) as Truth;
const files = readdirSync(PICTURES).filter(
  (file) => /\.(jpg|webp)$/.test(file) && !file.endsWith('.poster.webp'),
);

const measured = new Map<string, Measures>();
async function measure(file: string): Promise<void> {
  const bytes = readFileSync(`${PICTURES}${file}`);
  const { width = 1, height = 1 } = truthOf(file) as { width?: number; height?: number };
  const small = await sharp(bytes).resize(128, 128, { fit: 'inside' }).webp().toBuffer();
  measured.set(file, await measuresOfPicture(sharp(bytes), small, width, height));
}
const WANTED =
  /^(ferry-\d{3}-(soft|side)|head-(above|below|front|profile|quarter)|.*-(rescaled|recompressed))|^(chain-wheel-edge|lantern-060|mannequin-11)\.jpg/;
beforeAll(async () => {
  for (const file of files.filter((one) => WANTED.test(one))) await measure(file);
}, 180_000);

const ferries = [0, 45, 90, 135, 180, 225, 270, 315].map((azimuth) => String(azimuth).padStart(3, '0'));

describe('how much the light models', () => {
  it('soft light on the ferry counts as flat from everywhere, low sun from nowhere', () => {
    for (const azimuth of ferries) {
      const of = (light: string) => measured.get(`ferry-${azimuth}-${light}.jpg`)!.modelling;
      expect(of('soft'), azimuth).toBeLessThan(FLAT_BELOW);
      expect(of('side'), azimuth).toBeGreaterThan(FLAT_BELOW);
    }
  });

  it('on the head it is more from the side and raking than soft, in every view', () => {
    for (const view of ['above', 'below', 'front', 'profile', 'quarter']) {
      const of = (light: string) =>
        (measured.get(`head-${view}-${light}.jpg`) ?? measured.get(`head-${view}-${light}.webp`))!.modelling;
      expect(of('side'), view).toBeGreaterThan(of('soft'));
      expect(of('raking'), view).toBeGreaterThan(of('soft'));
    }
  });
});

describe('how sharp a picture really is', () => {
  const lines = (file: string) => {
    const { width, height } = truthOf(file) as { width: number; height: number };
    return resolvedLines({ width, height, measures: measured.get(file)! })!;
  };

  it.each([
    'chain-wheel-edge',
    'ferry-000-side',
    'ferry-135-soft',
    'head-front-soft',
    'lantern-060',
    'mannequin-11',
  ])('of %s the original resolves most, the smaller copy least', (name) => {
    const original = lines(`${name}.jpg`);
    expect(original * 1.02).toBeGreaterThan(lines(`${name}-recompressed.jpg`));
    expect(lines(`${name}-recompressed.jpg`)).toBeGreaterThan(lines(`${name}-rescaled.jpg`));
  });

  it('a copy blown up again to its old size resolves no more for its pixels', async () => {
    const original = `${PICTURES}chain-wheel-edge.jpg`;
    const plane = async (scale: number) => {
      const { data, info } = await sharp(
        await sharp(original)
          .resize(Math.round(1200 * scale))
          .png()
          .toBuffer(),
      )
        .resize(1200, 1600)
        .toColourspace('b-w')
        .raw()
        .toBuffer({ resolveWithObject: true });
      const values = Float32Array.from(
        { length: info.width * info.height },
        (_, at) => data[at * info.channels]! / 255,
      );
      return detailOf({ width: info.width, height: info.height, data: values });
    };
    const [whole, half, quarter] = [await plane(1), await plane(0.5), await plane(0.25)].map((detail) =>
      sharpnessOf(detail),
    );
    expect(half! / whole!).toBeLessThan(0.75);
    expect(quarter! / half!).toBeLessThan(0.75);
  }, 60_000);
});

describe('what the demo covers of the ferry', () => {
  const [ferry] = SUBJECTS;
  const subject = { id: ferry!.id, name: ferry!.name, parts: ferry!.parts, isPutAway: false, pictures: 0 };
  const servingOf = (file: string): Serving[] => {
    const said = saidOf(file, truthOf(file));
    const ids = [
      ferry!.id,
      ...ferry!.parts.flatMap((part) => [part.id, ...part.parts.map((inner) => inner.id)]),
    ];
    if (!said?.parts.some((part) => ids.includes(part))) return [];
    const { parts, views, isToScale } = said;
    return [
      {
        id: file,
        parts,
        view: views[ferry!.id],
        isToScale,
        modelling: measured.get(file)?.modelling ?? null,
      },
    ];
  };
  const everything = readdirSync(PICTURES)
    .filter((file) => file.endsWith('.truth.json'))
    .map((file) => file.replace('.truth.json', ''));

  it('every rendered view lies in the cell of its camera, and what was not rendered is a gap', () => {
    const coverage = coverageOf(subject, everything.flatMap(servingOf));
    for (const azimuth of ferries.map(Number)) {
      const sector = Math.round(azimuth / 30) % SECTORS;
      const level = coverage.cells[SECTORS + sector]!;
      expect(
        level.some((file) => file.startsWith(`ferry-${String(azimuth).padStart(3, '0')}`)),
        String(azimuth),
      ).toBe(true);
    }
    const words = coverage.gaps.map(({ words }) => words);
    expect(words).toContain('The ferry: any view from below');
    expect(words).toContain('The ferry: underside');
    expect(words).toContain('The ferry: rub rail');
    // Eight views at dusk, the sun behind the ferry, and what else is seen against the light.
    expect(coverage.lights['from behind']).toBeGreaterThanOrEqual(8);
    expect(coverage.parts.find(({ name }) => name === 'hull')!.toScale).toBe(4);
  });

  it('with soft pictures alone it would be known in flat light only', () => {
    const soft = ferries.map((azimuth) => `ferry-${azimuth}-soft.jpg`).flatMap(servingOf);
    const asHull = soft.map((one) => ({ ...one, parts: [ferry!.parts[0]!.id] }));
    expect(coverageOf(subject, asHull).parts[0]!.isFlatOnly).toBe(true);
    const side = servingOf('ferry-045-side.jpg').map((one) => ({ ...one, parts: [ferry!.parts[0]!.id] }));
    expect(coverageOf(subject, [...asHull, ...side]).parts[0]!.isFlatOnly).toBe(false);
  });
});

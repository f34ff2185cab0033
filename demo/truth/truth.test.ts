import { statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { luminanceToMunsellValue, srgbToLinear } from '@miradero/core/colour';
import { shapeOfBytes } from '@miradero/core/picture';
import { Ajv } from 'ajv';
import ExifReader from 'exifreader';
import validator from 'gltf-validator';
import sharp, { type Sharp } from 'sharp';
import { describe, expect, it } from 'vitest';
import { cameraOf, files, findEdge, type Grey, PICTURES, truths } from './check.ts';
import { type Truth, truthSchema } from './truth.ts';

/** What the demo says about its files, held against the files themselves. */
const all = truths();
const byFile = new Map(all.map((truth) => [truth.file, truth]));
const ofKind = (kind: Truth['kind']) => all.filter((truth) => truth.kind === kind);
const named = (file: string): Truth => {
  const truth = byFile.get(file);
  if (!truth) throw new Error(`${file} has no truth`);
  return truth;
};
const path = (file: string) => `${PICTURES}${file}`;

async function greyOf(file: string): Promise<Grey> {
  const { data, info } = await sharp(path(file))
    .toColourspace('b-w')
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data: new Uint8Array(data), width: info.width, height: info.height };
}

describe('the set', () => {
  const LARGEST_MB = 4;
  const ALL_MB = 40;
  const megabytes = (file: string) => statSync(path(file)).size / 1e6;

  it('is described whole: a valid truth file for every file, and no other', () => {
    const isTruth = new Ajv({ strict: true, allErrors: true }).compile(truthSchema);
    for (const truth of all) {
      isTruth(truth);
      expect(isTruth.errors ?? [], truth.file).toEqual([]);
    }
    expect([...byFile.keys()].sort()).toEqual(files().sort());
  });

  it('is small enough to ship', () => {
    for (const file of files()) {
      if (file !== 'ferry-blueprint.png') expect(megabytes(file), file).toBeLessThan(LARGEST_MB);
    }
    expect(files().reduce((sum, file) => sum + megabytes(file), 0)).toBeLessThan(ALL_MB);
  });

  it('has the pixels that it says', async () => {
    for (const { file, mediaType, width, height } of all) {
      if (!mediaType.startsWith('image/')) continue;
      if (mediaType === 'image/heic') {
        expect(shapeOfBytes(await readFile(path(file)), mediaType), file).toEqual({ width, height });
        continue;
      }
      const facts = await sharp(path(file), { limitInputPixels: false }).metadata();
      const shown = facts.autoOrient;
      expect([shown.width, facts.pageHeight ?? shown.height], file).toEqual([width, height]);
    }
  });
});

describe('cameras', () => {
  const seen = all.filter(({ camera, marks }) => camera && marks && marks.length > 0);

  it('put every mark where another camera puts it, within a pixel', () => {
    expect(seen.length).toBeGreaterThan(20);
    for (const { file, camera, marks = [], width, height } of seen) {
      const project = cameraOf(camera!, width!, height!);
      for (const { name, atM, x, y } of marks) {
        const on = project(atM);
        expect(Math.hypot(on.x - x, on.y - y), `${file}: ${name}`).toBeLessThan(1);
      }
    }
  });

  it('put vanishing points where parallel lines of the scene run together', () => {
    const AXES: Record<string, readonly [number, number, number]> = {
      ...{ 'along the hull': [1, 0, 0], 'across the hull': [0, 0, 1], upright: [0, 1, 0] },
      ...{ 'across the face': [1, 0, 0], 'along the gaze': [0, 0, 1] },
    };
    let checked = 0;
    for (const { file, camera, vanishingPoints = [], width, height } of all) {
      if (!camera) continue;
      const project = cameraOf(camera, width!, height!);
      for (const { axis, x, y } of vanishingPoints) {
        const along = AXES[axis]!;
        const target = camera.targetM as [number, number, number];
        const asides = [
          [0.4, 0.3],
          [-0.3, 0.35],
        ] as const;
        const lines = asides.map(([one, other]) => {
          const from = target.map(
            (at, index) => at + one * along[(index + 1) % 3]! + other * along[(index + 2) % 3]!,
          );
          return [-0.5, 0.5].map((step) => project(from.map((at, index) => at + step * along[index]!)));
        });
        const [[a, b], [c, d]] = lines as [[Point, Point], [Point, Point]];
        const meeting = meet(a, b, c, d);
        const away = Math.hypot(x - width! / 2, y - height! / 2);
        expect(Math.hypot(meeting.x - x, meeting.y - y), `${file}: ${axis}`).toBeLessThan(1 + away * 2e-3);
        checked += 1;
      }
    }
    expect(checked).toBeGreaterThan(40);
  });

  it('agree with the pixels: edges of window frames lie where they are said to', async () => {
    const CLEAR = 26;
    const offsets: number[] = [];
    for (const { file, edges = [], camera } of ofKind('rendered')) {
      const sharpOnes = edges.filter(({ seenShare, from, to }) => {
        return seenShare > 0.9 && Math.hypot(from.x - to.x, from.y - to.y) > 24;
      });
      if (sharpOnes.length === 0 || camera!.apertureM) continue;
      const grey = await greyOf(file);
      for (const { from, to } of sharpOnes) {
        const { offsetPx, contrast } = findEdge(grey, from, to);
        if (contrast > CLEAR) offsets.push(offsetPx);
      }
    }
    expect(offsets.length).toBeGreaterThan(12);
    const within = offsets.filter((offset) => Math.abs(offset) <= 1);
    expect(within.length / offsets.length).toBeGreaterThan(0.9);
  });
});

interface Point {
  readonly x: number;
  readonly y: number;
}

function meet(a: Point, b: Point, c: Point, d: Point): Point {
  const [ux, uy, vx, vy] = [b.x - a.x, b.y - a.y, d.x - c.x, d.y - c.y];
  const t = ((c.x - a.x) * vy - (c.y - a.y) * vx) / (ux * vy - uy * vx);
  return { x: a.x + ux * t, y: a.y + uy * t };
}

describe('copies', () => {
  const SIDE = 96;
  const small = async (picture: Sharp) =>
    picture.toColourspace('b-w').resize(SIDE, SIDE, { fit: 'fill' }).raw().toBuffer();
  const apart = (one: Buffer, other: Buffer) =>
    one.reduce((sum, value, at) => sum + Math.abs(value - other[at]!), 0) / one.length;
  const near = all.filter(
    ({ from }) => from && ['rescaled', 'recompressed', 'cropped', 'mirrored'].includes(from.how),
  );

  it('are of six pictures, four of each', () => {
    expect(near).toHaveLength(24);
    expect(new Set(near.map(({ from }) => from!.file)).size).toBe(6);
  });

  it('show what they were made from, changed as it is said', async () => {
    for (const { file, from, width } of near) {
      const original = named(from!.file);
      const { x = 0, y = 0, width: w = 1, height: h = 1 } = from!.crop ?? {};
      const part = sharp(
        await sharp(path(original.file))
          .extract({
            ...{ left: Math.round(x * original.width!), top: Math.round(y * original.height!) },
            ...{ width: Math.round(w * original.width!), height: Math.round(h * original.height!) },
          })
          .flop(from!.how === 'mirrored')
          .toBuffer(),
      );
      expect(apart(await small(part), await small(sharp(path(file)))), file).toBeLessThan(3);
      expect(width, file).toBe(Math.round(w * original.width! * from!.scale));
    }
  });
});

describe('drawings', () => {
  it('are to the scale they say: what is drawn at a mark is a corner of dark lines', async () => {
    for (const { file, marks = [], drawing } of ofKind('drawing')) {
      if (drawing!.view === 'sheet') continue;
      const { data, width, height } = await greyOf(file);
      for (const { name, x, y } of marks) {
        let darkest = 255;
        for (let dy = -2; dy <= 1; dy += 1) {
          for (let dx = -2; dx <= 1; dx += 1) {
            const at = (Math.round(y) + dy) * width + Math.round(x) + dx;
            if (at >= 0 && at < width * height) darkest = Math.min(darkest, data[at]!);
          }
        }
        expect(darkest, `${file}: ${name}`).toBeLessThan(110);
      }
    }
  });

  it('are saved at three scales, one of them tilted by 1.7°', () => {
    const views = ofKind('drawing').filter(({ drawing }) => drawing!.view !== 'sheet');
    expect(new Set(views.map(({ drawing }) => drawing!.pixelsPerMetre)).size).toBe(3);
    expect(views.map(({ drawing }) => drawing!.tiltDeg).sort()).toEqual([0, 0, 1.7]);
    for (const { marks = [], drawing, file } of views) {
      const [a, b] = marks as [(typeof marks)[number], (typeof marks)[number]];
      const metres = Math.hypot(...a.atM.map((at, axis) => (at as number) - (b.atM[axis] as number)));
      const pixels = Math.hypot(a.x - b.x, a.y - b.y);
      expect(pixels / metres, file).toBeCloseTo(drawing!.pixelsPerMetre, 1);
    }
  });

  it('go up to 12,000 × 8,000, with lettering that only the full size shows', async () => {
    const file = 'ferry-blueprint.png';
    const { width, height } = named(file);
    expect([width, height]).toEqual([12_000, 8_000]);
    // Around the rivet numbers: dark and light next to each other at full size, even when it is reduced.
    const strip = { left: 2200, top: 2555, width: 4600, height: 8 };
    const contrast = async (scale: number) => {
      const cut = await sharp(path(file), { limitInputPixels: false }).extract(strip).png().toBuffer();
      const reduced = await sharp(cut)
        .resize(Math.round(strip.width * scale))
        .toColourspace('b-w')
        .png()
        .toBuffer();
      const { channels } = await sharp(reduced).stats();
      return channels[0]!.stdev;
    };
    expect(await contrast(1)).toBeGreaterThan(2 * (await contrast(0.04)));
  });
});

describe('drawings in progress', () => {
  const RIGHT = 'page-7-right.png';
  const flat = async (picture: Sharp) =>
    picture.removeAlpha().toColourspace('b-w').blur(1.2).raw().toBuffer();
  const differ = (one: Buffer, other: Buffer) =>
    one.reduce((sum, value, at) => sum + Math.abs(value - other[at]!), 0) / one.length;

  /** Undoes an error of a drawing about the ferry's foot, and says how far it then is from the right one. */
  async function apartAfter(file: string, undo: readonly [number, number, number, number]): Promise<number> {
    const { width, height, camera } = named(RIGHT);
    const foot = cameraOf(camera!, width!, height!)([0, 0, 0]);
    const right = await flat(sharp(path(RIGHT)));
    const drawn = await flat(sharp(path(file)));
    const [a, b, c, d] = undo;
    let sum = 0;
    let count = 0;
    for (let y = 120; y < height! - 120; y += 3) {
      for (let x = 160; x < width! - 160; x += 3) {
        const px = Math.round(foot.x + a * (x - foot.x) + b * (y - foot.y));
        const py = Math.round(foot.y + c * (x - foot.x) + d * (y - foot.y));
        if (px < 0 || py < 0 || px >= width! || py >= height!) continue;
        sum += Math.abs(right[y * width! + x]! - drawn[py * width! + px]!);
        count += 1;
      }
    }
    return sum / count;
  }
  const best = async (tries: readonly number[], measure: (amount: number) => Promise<number>) => {
    const results: number[] = [];
    for (const amount of tries) results.push(await measure(amount));
    return tries[results.indexOf(Math.min(...results))];
  };

  it('one is as much too wide as it says', async () => {
    const file = 'page-7-too-wide.png';
    const widen = (percent: number) => apartAfter(file, [1 + percent / 100, 0, 0, 1]);
    expect(await best([0, 2, 4, 5, 5.5, 6, 6.5, 7, 8], widen)).toBe(named(file).errors![0]!.amount);
    expect(await widen(6)).toBeLessThan(0.45 * (await widen(0)));
  });

  it('one leans as much as it says', async () => {
    const file = 'page-7-leaning.png';
    const lean = (degrees: number) => {
      const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
      return apartAfter(file, [cos, -sin, sin, cos]);
    };
    expect(await best([-2, -1, 0, 1, 1.5, 1.75, 2, 2.25, 2.5, 3], lean)).toBe(named(file).errors![0]!.amount);
  });

  it('one is as many value steps too dark as it says, and lies right', async () => {
    const file = 'page-7-too-dark.png';
    const [right, dark] = await Promise.all(
      [RIGHT, file].map((name) => sharp(path(name)).removeAlpha().raw().toBuffer()),
    );
    const values = (picture: Buffer) => {
      const found: number[] = [];
      for (let at = 0; at < picture.length; at += 3 * 101) {
        const [r, g, b] = [0, 1, 2].map((c) => srgbToLinear(picture[at + c]! / 255)) as [
          number,
          number,
          number,
        ];
        found.push(luminanceToMunsellValue(100 * (0.2126 * r + 0.7152 * g + 0.0722 * b)));
      }
      return found;
    };
    const [should, is] = [values(right!), values(dark!)];
    const steps = should.map((value, at) => value - is[at]!).sort((a, b) => a - b);
    expect(steps[steps.length >> 1]).toBeCloseTo(named(file).errors![0]!.amount, 1);
    expect(
      differ(await flat(sharp(path(RIGHT)).normalise()), await flat(sharp(path(file)).normalise())),
    ).toBeLessThan(14);
  });
});

describe('files from the world', () => {
  const world = all.filter(({ embedded }) => embedded);
  const tagsOf = async (file: string) => ExifReader.load(await readFile(path(file)), { expanded: true });

  it('say what their truth says: orientation, lens, time, place', async () => {
    const fromCamera = world.filter(({ embedded }) => embedded!.takenAt);
    expect(fromCamera.map(({ embedded }) => embedded!.orientation).sort()).toEqual([1, 3, 6, 8]);
    for (const { file, embedded, camera } of fromCamera) {
      const { exif } = await tagsOf(file);
      expect(exif!.Orientation!.value, file).toBe(embedded!.orientation);
      expect(exif!.FocalLengthIn35mmFilm!.value, file).toBe(camera!.focalMm);
      expect(exif!.DateTimeOriginal!.description, file).toBe(embedded!.takenAt);
      expect(exif!.GPSLatitude !== undefined, file).toBe(embedded!.hasPosition);
    }
  });

  it('name title, creator and licence in XMP', async () => {
    const known = world.filter(({ embedded }) => embedded!.creator);
    expect(known.length).toBeGreaterThan(2);
    for (const { file, embedded } of known) {
      const xmp = await (await sharp(path(file)).metadata()).xmp!.toString();
      for (const words of [embedded!.title, embedded!.creator, embedded!.licence]) {
        if (words) expect(xmp, file).toContain(words);
      }
    }
  });

  it('come in other colours, depths and kinds', async () => {
    const facts = async (file: string) => sharp(path(file)).metadata();
    expect((await facts('ferry-poster-cmyk.jpg')).space).toBe('cmyk');
    const { icc } = await facts('lantern-wide-gamut-p3.jpg');
    expect(icc!.toString('latin1')).toMatch(/P\0?3/);
    expect((await facts('head-16-bit.png')).depth).toBe('ushort');
    expect((await readFile(path('IMG_2077.HEIC'))).subarray(4, 12).toString()).toBe('ftypheic');
  });
});

describe('what moves', () => {
  it('the knot: twelve frames, the same in both kinds', async () => {
    const [gif, webp] = await Promise.all(
      ['knot.gif', 'knot.webp'].map((file) => sharp(path(file)).metadata()),
    );
    for (const facts of [gif!, webp!]) {
      expect(facts.pages).toBe(12);
      expect(facts.delay!.reduce((sum, one) => sum + one, 0)).toBe(named('knot.gif').durationMs);
    }
    for (const page of [0, 5, 11]) {
      const [one, other] = await Promise.all(
        ['knot.gif', 'knot.webp'].map((file) => sharp(path(file), { page }).removeAlpha().raw().toBuffer()),
      );
      const apart = one!.reduce((sum, value, at) => sum + Math.abs(value - other![at]!), 0) / one!.length;
      expect(apart).toBeLessThan(9);
    }
  });

  it('the clip: H.264, four seconds', async () => {
    const bytes = await readFile(path('chain-wheel-turning.mp4'));
    expect(bytes.subarray(4, 8).toString()).toBe('ftyp');
    expect(bytes.includes('avc1')).toBe(true);
    const at = bytes.indexOf('mvhd') + 4;
    const [scale, duration] = [bytes.readUInt32BE(at + 12), bytes.readUInt32BE(at + 16)];
    expect((duration / scale) * 1000).toBeCloseTo(named('chain-wheel-turning.mp4').durationMs!, -1);
  });

  it('the model: valid glTF, as large as the ferry', async () => {
    const bytes = new Uint8Array(await readFile(path('ferry.glb')));
    const { issues } = await validator.validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true);
    const gltf = JSON.parse(Buffer.from(bytes.subarray(20, 20 + length)).toString());
    const hull = gltf.meshes[gltf.nodes.find(({ name }: { name: string }) => name === 'hull').mesh];
    const bounds = hull.primitives.map(
      ({ attributes }: { attributes: { POSITION: number } }) => gltf.accessors[attributes.POSITION],
    );
    const span = (axis: number) =>
      Math.max(...bounds.map(({ max }: { max: number[] }) => max[axis]!)) -
      Math.min(...bounds.map(({ min }: { min: number[] }) => min[axis]!));
    const { lengthM, beamM } = named('ferry.glb').dimensionsM!;
    // The rub rail stands a few centimetres outside the plates.
    expect(span(0)).toBeGreaterThan(lengthM as number);
    expect(span(0)).toBeLessThan((lengthM as number) + 0.2);
    expect(span(2)).toBeLessThan((beamM as number) + 0.2);
  });
});

import {
  deltaE2000,
  histogramOf,
  type Lab,
  oklabToRgb,
  paletteOfHistogram,
  rgbOf8,
  rgbToLab,
} from '@miradero/core/colour';
import { LENS_IDS, type LensId, lensOf, seeingOf } from '@miradero/core/lens';
import * as imageQ from 'image-q';
import quantize from 'quantize';
import sharp from 'sharp';
import { camera, PICTURES, SIDES } from './camera.ts';
import { ms, report, times } from './report.ts';

const COLOURS = 8;
/** The quantisers of whole pictures take minutes of these: they have reduced ones. */
const REDUCED = 400;
/** Pixels by which all are judged, the same for each. */
const JUDGED = 20_000;

const TURNS = 5;

type Rgb8 = readonly [number, number, number];
const labOf = ([r, g, b]: Rgb8): Lab => rgbToLab(rgbOf8(r, g, b));

/** Mean ΔE00 of pixels of a picture to the nearest of some colours. */
function scoreOf(data: Uint8ClampedArray, palette: readonly Rgb8[]): number {
  const labs = palette.map(labOf);
  const every = Math.floor(data.length / 4 / JUDGED);
  let sum = 0;
  let count = 0;
  for (let pixel = 0; pixel < data.length / 4; pixel += every) {
    const at = pixel * 4;
    const lab = labOf([data[at]!, data[at + 1]!, data[at + 2]!]);
    sum += Math.min(...labs.map((one) => deltaE2000(lab, one)));
    count += 1;
  }
  return sum / count;
}

function timed<T>(make: () => T): { made: T; tookMs: number } {
  const began = performance.now();
  const made = make();
  return { made, tookMs: performance.now() - began };
}

const middleOf = (all: readonly number[]): number => [...all].sort((a, b) => a - b)[all.length >> 1]!;

function best<T>(count: number, make: () => T): { made: T; tookMs: number } {
  const all = Array.from({ length: count }, () => timed(make));
  return all.sort((a, b) => a.tookMs - b.tookMs)[Math.floor(count / 2)]!;
}

const ours = (data: Uint8ClampedArray): Rgb8[] =>
  paletteOfHistogram(histogramOf(data), { count: COLOURS }).map((swatch) => {
    const { r, g, b } = oklabToRgb(swatch);
    return [r, g, b].map((part) => Math.round(255 * Math.min(1, Math.max(0, part)))) as unknown as Rgb8;
  });

/** Median cut of every tenth pixel, as it is usually done. */
function medianCut(data: Uint8ClampedArray): Rgb8[] {
  const pixels: [number, number, number][] = [];
  for (let at = 0; at < data.length; at += 40) pixels.push([data[at]!, data[at + 1]!, data[at + 2]!]);
  const map = quantize(pixels, COLOURS);
  return map ? (map.palette() as Rgb8[]) : [];
}

async function reduced(data: Uint8ClampedArray): Promise<imageQ.utils.PointContainer> {
  const { data: small, info } = await sharp(data, { raw: { ...SIDES, channels: 4 } })
    .resize({ width: REDUCED })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return imageQ.utils.PointContainer.fromUint8Array(Uint8Array.from(small), info.width, info.height);
}

async function peer(data: Uint8ClampedArray, method: 'wuquant' | 'neuquant'): Promise<Rgb8[]> {
  const palette = await imageQ.buildPalette([await reduced(data)], {
    ...{ colors: COLOURS, paletteQuantization: method, colorDistanceFormula: 'euclidean' },
  });
  return palette
    .getPointContainer()
    .getPointArray()
    .map(({ r, g, b }) => [r, g, b] as Rgb8);
}

const mean = (all: readonly number[]): number => all.reduce((sum, one) => sum + one, 0) / all.length;

/** Eight colours of pictures of 12 megapixels, all pixels counted, against usual quantisers. */
export async function benchPalette(): Promise<void> {
  const took: number[] = [];
  const cutTook: number[] = [];
  const scores = { ours: [] as number[], cut: [] as number[], wu: [] as number[], neu: [] as number[] };
  for (const name of PICTURES) {
    const data = await camera(name);
    const { made, tookMs } = best(5, () => ours(data));
    const cut = best(3, () => medianCut(data));
    took.push(tookMs);
    cutTook.push(cut.tookMs);
    scores.ours.push(scoreOf(data, made));
    scores.cut.push(scoreOf(data, cut.made));
    scores.wu.push(scoreOf(data, await peer(data, 'wuquant')));
    scores.neu.push(scoreOf(data, await peer(data, 'neuquant')));
  }
  report(
    'palette of 8 of 12 MP, all pixels counted, median of 5, mean of three pictures',
    `${ms(mean(took))} (median cut of every tenth pixel ${ms(mean(cutTook))})`,
    times(mean(took) / mean(cutTook)),
    '≤ 200 ms',
    mean(took) <= 200,
  );
  const figures = Object.fromEntries(Object.entries(scores).map(([who, all]) => [who, mean(all)]));
  const others = [figures.cut!, figures.wu!, figures.neu!];
  report(
    'the same: mean ΔE00 to the nearest colour',
    `${figures.ours!.toFixed(2)} (median cut ${figures.cut!.toFixed(2)}, Wu ${figures.wu!.toFixed(2)}, neural ${figures.neu!.toFixed(2)}; the last two of reduced pictures)`,
    '',
    'lower than each',
    others.every((one) => figures.ours! < one),
  );
}

/** Adds one to every pixel: what no lens that alters each can do without. */
function plainLoop(data: Uint8ClampedArray): void {
  for (let at = 0; at < data.length; at += 4) {
    const level = 0.2126 * data[at]! + 0.7152 * data[at + 1]! + 0.0722 * data[at + 2]!;
    data[at] = level;
    data[at + 1] = level;
    data[at + 2] = level;
  }
}

/** Each lens over 12 megapixels, against a plain loop over them; those that blur or draw against sharp doing the same. */
export async function benchLenses(): Promise<void> {
  const data = await camera(PICTURES[1]!);
  const raw = () => sharp(data, { raw: { ...SIDES, channels: 4 } });
  const sobel = () =>
    raw()
      .greyscale()
      .convolve({ width: 3, height: 3, kernel: [-1, 0, 1, -2, 0, 2, -1, 0, 1] })
      .raw()
      .toBuffer();
  const blur = (sigma: number) => raw().blur(sigma).raw().toBuffer();
  const peers: Partial<Record<LensId, () => Promise<unknown>>> = {
    squint: () => blur(5),
    outline: sobel,
    // Slopes, and what they are about each place.
    edges: async () => {
      await sobel();
      await blur(8);
    },
    focus: () => blur(24),
  };
  for (const lens of LENS_IDS.filter((one) => lensOf(one).seesPixels)) {
    const { see } = seeingOf(lens)!;
    const amount = lensOf(lens).amount?.usual ?? 0;
    const peerOf = peers[lens] ?? (async () => plainLoop(data.slice()));
    // By turns: what else the machine does is the same for both.
    const took: number[] = [];
    const peerTook: number[] = [];
    for (let turn = 0; turn < TURNS; turn += 1) {
      took.push(timed(() => see({ ...SIDES, data: data.slice() }, amount)).tookMs);
      const began = performance.now();
      await peerOf();
      peerTook.push(performance.now() - began);
    }
    const tookMs = middleOf(took);
    const limitMs = middleOf(peerTook);
    const most = peers[lens] ? 3 : 1.5;
    report(
      `lens ${lensOf(lens).words} over 12 MP`,
      `${ms(tookMs)} (${peers[lens] ? 'sharp' : 'a plain loop'} ${ms(limitMs)})`,
      times(tookMs / limitMs),
      `≤ ${most} ×`,
      tookMs / limitMs <= most,
    );
  }
}

import {
  coarsened,
  coarserDistribution,
  FINE_BINS,
  histogramOf,
  valueDistribution,
  valueStatistics,
} from '@miradero/core/colour';
import { seeSmall, seeSubtle, standApart } from '@miradero/core/form';
import {
  boundsOfPoints,
  intersectionOf,
  maskOfPolygon,
  type Point,
  type Rectangle,
} from '@miradero/core/geometry';
import {
  pixelsOfStudy,
  strokesOf,
  strokesToSvg,
  strongestContrast,
  studyToSvg,
  studyValues,
} from '@miradero/core/lens';
import { suggestLight } from '@miradero/core/light';
import type {
  FormRead,
  HistogramRead,
  LightRead,
  PixelBlock,
  PixelSource,
  RequestOf,
  StrokesRead,
  StudyRead,
} from '../requests.ts';
import { regionOf } from './read.ts';
import type { PixelStore, Wanted } from './store.ts';

export async function histogramRead(
  store: PixelStore,
  request: RequestOf<'histogram'>,
  asker: Wanted,
): Promise<HistogramRead> {
  const { source, outline } = request;
  const part = outline ? intersectionOf(request.part, boundsOfPoints(outline)) : request.part;
  const block = await regionOf(store, { ...request, part }, asker);
  const mask = outline && maskOfPolygon(outline.map(inBlock(source, part, block)), block.width, block.height);
  return { ...coarsened(histogramOf(block.data, mask)), side: block.side };
}

/** Lets what came meanwhile be heard between two long steps. @throws what ended it, where nobody wants it any more */
async function breath({ signal }: Wanted): Promise<void> {
  await new Promise((resolve) => setTimeout(resolve));
  signal.throwIfAborted();
}

/** So much around a form comes along, of its own size: its ground, and what it throws on that. */
const GROUND = 0.6;

function withGround(form: Rectangle): Rectangle {
  const around = {
    ...{ x: form.x - GROUND * form.width, y: form.y - GROUND * form.height },
    ...{ width: form.width * (1 + 2 * GROUND), height: form.height * (1 + 2 * GROUND) },
  };
  return intersectionOf(around, { x: 0, y: 0, width: 1, height: 1 });
}

/** Fractions of a picture as pixels of the block that shows a part of it. */
function inBlock(source: PixelSource, part: Rectangle, { side }: PixelBlock): (at: Point) => Point {
  const scale = side / Math.max(source.width, source.height);
  return ({ x, y }) => ({
    x: (x - part.x) * source.width * scale,
    y: (y - part.y) * source.height * scale,
  });
}

export async function lightRead(
  store: PixelStore,
  { source, outline, side }: RequestOf<'light'>,
  asker: Wanted,
): Promise<LightRead> {
  const part = withGround(boundsOfPoints(outline));
  const block = await regionOf(store, { source, part, side }, asker);
  const mask = maskOfPolygon(outline.map(inBlock(source, part, block)), block.width, block.height);
  return { suggestion: suggestLight(block, mask), side: block.side };
}

export async function studyRead(
  store: PixelStore,
  request: RequestOf<'study'>,
  asker: Wanted,
): Promise<StudyRead> {
  const { source, outline } = request;
  const part = outline ? intersectionOf(request.part, boundsOfPoints(outline)) : request.part;
  const block = await regionOf(store, { ...request, part }, asker);
  if (outline) {
    const mask = maskOfPolygon(outline.map(inBlock(source, part, block)), block.width, block.height);
    for (let pixel = 0; pixel < mask.length; pixel += 1) if (mask[pixel] === 0) block.data[pixel * 4 + 3] = 0;
  }
  await breath(asker);
  const { island, edges, steps, borders } = request.wish;
  const longest = Math.max(block.width, block.height);
  const leastIsland = island * block.width * block.height;
  const fine = valueDistribution(block, FINE_BINS);
  const strongest = strongestContrast(block, REACH * longest);
  await breath(asker);
  const study = studyValues(block, { steps, borders, leastIsland });
  await breath(asker);
  const { shares, greys } = study;
  const data = pixelsOfStudy(study).data as Uint8ClampedArray<ArrayBuffer>;
  for (let at = 3; at < data.length; at += 4) if (block.data[at]! < 128) data[at] = 0;
  return {
    ...{ shares, greys, borders: study.borders, side: block.side, width: block.width, height: block.height },
    data,
    distribution: coarserDistribution(fine, BINS),
    statistics: valueStatistics(fine),
    strongest,
    svg: edges === undefined ? undefined : studyToSvg(study, edges * longest),
  };
}

/** Steps in which values are counted to be seen. */
const BINS = 100;
/** How far about a place its contrast is felt, of the longest side. */
const REACH = 0.02;
/** Strokes are so wide, of the longest side. */
const STROKE = 0.003;

export async function strokesRead(
  store: PixelStore,
  { source, part, side, wish }: RequestOf<'strokes'>,
  asker: Wanted,
): Promise<StrokesRead> {
  const block = await regionOf(store, { source, part, side }, asker);
  const { width, height } = block;
  const longest = Math.max(width, height);
  await breath(asker);
  const strokes = strokesOf(block, {
    ...{ detailPx: wish.detail * longest, tolerancePx: wish.tolerance * longest, most: wish.most },
  });
  const svg = strokesToSvg(strokes, { width, height }, Math.max(1, STROKE * longest));
  return { svg, count: strokes.length, width, height, side: block.side };
}

/** In these sizes a form has to hold, longest side of its picture. */
const SMALL_SIDES = [96, 48, 24] as const;

export async function formRead(
  store: PixelStore,
  { source, outline, side }: RequestOf<'form'>,
  asker: Wanted,
): Promise<FormRead> {
  const part = withGround(boundsOfPoints(outline));
  const block = await regionOf(store, { source, part, side }, asker);
  const corners = outline.map(inBlock(source, part, block));
  const mask = maskOfPolygon(corners, block.width, block.height);
  await breath(asker);
  // What has fewer pixels is not enlarged.
  const sides = new Set(SMALL_SIDES.map((small) => Math.min(small, Math.max(block.width, block.height))));
  const small = seeSmall(block, mask, [...sides]);
  await breath(asker);
  const apart = standApart(block, corners, mask);
  await breath(asker);
  return {
    small,
    apart,
    subtle: seeSubtle(block, mask),
    part,
    outline: corners.map(({ x, y }) => ({ x: x / block.width, y: y / block.height })),
    side: block.side,
  };
}

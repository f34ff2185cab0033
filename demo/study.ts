import { readFile, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { openRasterFile } from '@miradero/core/formats';
import {
  BRUSHES,
  blendOf,
  groundFor,
  type Layer,
  newLayers,
  PaintedSheet,
  PaintStroke,
  type Rgb8,
  TILE_PX,
  tileKey,
  tilesIn,
} from '@miradero/core/paint';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';

/** Written by `npm run study` here. */
const PAINTED = fileURLToPath(new URL('./studies/lantern.ora', import.meta.url));
/** What of a sheet OpenRaster has no words for. */
const ABOUT = 'sheet.json';

const PPI = 300;
/** Longest side, px. */
const SIDE = 1_200;
/** How far apart strokes of the sketch are laid, px. */
const SKETCH_PX = 8;
/** An edge is where values differ so much across a few pixels, 0..255. */
const EDGE = 22;

interface Seen {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray<ArrayBuffer>;
}

async function seenAt(file: string, side: number): Promise<Seen> {
  const { data, info } = await sharp(file)
    .autoOrient()
    .resize(side, side, { fit: 'inside' })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
}

const colourAt = ({ width, height, data }: Seen, x: number, y: number): Rgb8 => {
  const column = Math.min(width - 1, Math.max(0, Math.round(x)));
  const at = (Math.min(height - 1, Math.max(0, Math.round(y))) * width + column) * 4;
  return [data[at]!, data[at + 1]!, data[at + 2]!];
};
const greyAt = (seen: Seen, x: number, y: number): number => {
  const [r, g, b] = colourAt(seen, x, y);
  return 0.3 * r + 0.59 * g + 0.11 * b;
};
/** How values change at a place, a step a pixel. */
const slopeAt = (seen: Seen, x: number, y: number) => ({
  x: greyAt(seen, x + 2, y) - greyAt(seen, x - 2, y),
  y: greyAt(seen, x, y + 2) - greyAt(seen, x, y - 2),
});

/** Short strokes of a pencil along what stands out. */
function sketch(sheet: PaintedSheet, seen: Seen): void {
  const stroke = (x: number, y: number, along: { x: number; y: number }) => {
    const one = new PaintStroke(
      sheet.layer('sketch'),
      { ...BRUSHES.pencil, opacity: 1 },
      [22, 15, 12],
      sheet.frame,
    );
    for (const part of [-1, 0, 1]) one.to([{ x: x + along.x * part, y: y + along.y * part, pressure: 0.75 }]);
    one.end();
  };
  for (let y = SKETCH_PX; y < seen.height; y += SKETCH_PX)
    for (let x = SKETCH_PX; x < seen.width; x += SKETCH_PX) {
      const slope = slopeAt(seen, x, y);
      const strength = Math.hypot(slope.x, slope.y);
      if (strength < EDGE) continue;
      stroke(x, y, { x: (-slope.y / strength) * SKETCH_PX, y: (slope.x / strength) * SKETCH_PX });
    }
}

/** Passes of the block-in: how wide strokes are, px, and how much values differ where they are laid. */
const PASSES = [
  { width: 96, from: 0 },
  { width: 48, from: 8 },
  { width: 26, from: 20 },
] as const;

/** One half in strokes of its own colours, the broad ones first, along what is seen: the other half is still to be done. */
async function blockIn(sheet: PaintedSheet, seen: Seen, file: string): Promise<void> {
  for (const { width, from } of PASSES) {
    // As one sees it with narrowed eyes: no finer than the stroke.
    const scale = 3 / width;
    const blurred = await seenAt(file, Math.round(SIDE * scale));
    const brush = { ...BRUSHES.round, sizePx: width, hardness: 0.55, opacity: 0.9 };
    const step = width * 0.55;
    const places = Math.ceil(seen.width / step) * Math.ceil(seen.height / step);
    for (let index = 0; index < places; index += 1) {
      // In an order that is no order: a row of strokes would be seen as one.
      const place = (index * 7_919) % places;
      const across = Math.ceil(seen.width / step);
      const x = ((place % across) + 0.5) * step;
      const y = (Math.floor(place / across) + 0.5) * step;
      if (x / seen.width > 0.32 + 0.42 * (y / seen.height)) continue;
      const slope = slopeAt(blurred, x * scale, y * scale);
      const strength = Math.hypot(slope.x, slope.y);
      if (strength < from) continue;
      const along = strength > 2 ? { x: -slope.y / strength, y: slope.x / strength } : { x: 1, y: 0.2 };
      const colour = colourAt(blurred, x * scale, y * scale);
      const one = new PaintStroke(sheet.layer('colour'), brush, colour, sheet.frame);
      for (const part of [-0.5, 0.5])
        one.to([
          { x: x + along.x * width * part, y: y + along.y * width * part, pressure: 0.7 + part * 0.4 },
        ]);
      one.end();
    }
  }
}

/** Tiles as a PNG that is as large as the sheet. */
function pngOf({ width, height }: Seen, pixelsAt: (key: number) => Uint8ClampedArray | undefined) {
  const data = new Uint8ClampedArray(width * height * 4);
  for (const place of tilesIn({ x: 0, y: 0, width, height })) {
    const pixels = pixelsAt(tileKey(place));
    if (!pixels) continue;
    const across = Math.min(TILE_PX, width - place.column * TILE_PX);
    for (let row = 0; row < Math.min(TILE_PX, height - place.row * TILE_PX); row += 1)
      data.set(
        pixels.subarray(row * TILE_PX * 4, (row * TILE_PX + across) * 4),
        ((place.row * TILE_PX + row) * width + place.column * TILE_PX) * 4,
      );
  }
  return sharp(data, { raw: { width, height, channels: 4 } })
    .withDensity(PPI)
    .png()
    .toBuffer();
}

/** Paints a study of a picture, half done, as a person would have left it: a ground of its mean colour, a sketch, the block-in of one half. */
async function paintHalf(file: string): Promise<Uint8Array<ArrayBuffer>> {
  const seen = await seenAt(file, SIDE);
  const ground = groundFor(seen.data, 'mean');
  const { width, height } = seen;
  const sheet = new PaintedSheet({ x: 0, y: 0, width, height }, newLayers(ground));
  // Colour lies above the sketch: what is blocked in covers it.
  sketch(sheet, seen);
  await blockIn(sheet, seen, file);
  const blank = new PaintedSheet(sheet.frame, newLayers(ground));
  const layers = await Promise.all(
    sheet.layers.map(async (layer: Layer, at) => {
      const isGround = layer.kind === 'ground';
      const isEmpty = [...layer.tiles.keys].length === 0;
      if (isEmpty && !isGround) return [];
      const png = await pngOf(seen, (key) => (isGround ? blank.composed(key) : layer.tiles.get(key)));
      const { name, opacity, isHidden, kind } = layer;
      return [
        { name, src: `data/${at}-${kind}.png`, x: 0, y: 0, opacity, isHidden, blend: blendOf(kind), png },
      ];
    }),
  );
  const merged = await pngOf(seen, (key) => sheet.composed(key));
  const told = { reference: null, layers: sheet.facts };
  return openRasterFile({ width, height }, layers.flat(), {
    ...{
      ppi: PPI,
      merged,
      thumbnail: await sharp(merged).resize(256, 256, { fit: 'inside' }).png().toBuffer(),
    },
    beside: { [ABOUT]: new TextEncoder().encode(JSON.stringify(told)) },
  });
}

/** The study as it was painted. @param picture - id of what it is a study of @returns an OpenRaster file */
export async function studyHalfDone(picture: string): Promise<Uint8Array<ArrayBuffer>> {
  const files = unzipSync(new Uint8Array(await readFile(PAINTED)));
  const told = JSON.parse(strFromU8(files[ABOUT]!)) as object;
  const reference = { picture, part: { x: 0, y: 0, width: 1, height: 1 } };
  const about = strToU8(JSON.stringify({ ...told, reference }));
  const entries = Object.entries({ ...files, [ABOUT]: about });
  return new Uint8Array(
    zipSync(Object.fromEntries(entries.map(([path, bytes]) => [path, [bytes, { level: 0 }] as const]))),
  );
}

// Painted once: it takes half a minute.
if (process.argv[1] === fileURLToPath(import.meta.url))
  await writeFile(PAINTED, await paintHalf(process.argv[2]!));

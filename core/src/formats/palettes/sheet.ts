import { type HandedPalette, wholePalette } from './handed-palette.ts';
import { patchesOf } from './svg.ts';

interface Sheet {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray<ArrayBuffer>;
}

/** Height of a sheet, and width of a patch where all are alike, pixels. */
const HEIGHT = 240;
const PATCH = 240;
const WIDTH = 1_920;
/** Narrower is an edge, not a patch, pixels. */
const LEAST_PATCH = 4;

/** A palette as flat patches of exact sRGB, to pick from. @param isByShare - as wide as their shares instead of alike */
export function paletteToSheet({ swatches }: HandedPalette, isByShare = false): Sheet {
  const width = isByShare ? WIDTH : PATCH * swatches.length;
  const data = new Uint8ClampedArray(width * HEIGHT * 4);
  const words = new Uint32Array(data.buffer);
  const row = new Uint32Array(width);
  for (const [index, { x, width: wide }] of patchesOf(swatches, width, isByShare).entries()) {
    const code = Number.parseInt(swatches[index]!.hex.slice(1), 16);
    const pixel = 0xff000000 + ((code & 0xff) << 16) + (code & 0xff00) + (code >>> 16);
    row.fill(pixel >>> 0, Math.round(x), Math.round(x + wide));
  }
  for (let y = 0; y < HEIGHT; y += 1) words.set(row, y * width);
  return { width, height: HEIGHT, data };
}

/** The flat patches along the middle of a picture of such a sheet, with their widths as shares. */
export function sheetToPalette(name: string, { width, height, data }: Sheet): HandedPalette {
  const middle = Math.floor(height / 2) * width * 4;
  const runs: { hex: string; width: number }[] = [];
  for (let x = 0; x < width; x += 1) {
    const at = middle + x * 4;
    if (data[at + 3]! < 255) continue;
    const hex = `#${[0, 1, 2].map((part) => data[at + part]!.toString(16).padStart(2, '0')).join('')}`;
    const last = runs.at(-1);
    if (last?.hex === hex) last.width += 1;
    else runs.push({ hex, width: 1 });
  }
  const patches = runs.filter((run) => run.width >= LEAST_PATCH);
  const total = patches.reduce((sum, run) => sum + run.width, 0);
  return wholePalette(
    name,
    patches.map((run) => ({ hex: run.hex, share: run.width / total })),
  );
}

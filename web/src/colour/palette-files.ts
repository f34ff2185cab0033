import {
  type HandedPalette,
  identifierOf,
  PALETTE_FILES,
  type PaletteFile,
  paletteToSheet,
} from '@miradero/core/formats';
import type { PaletteItem } from '@miradero/core/items';
import { saveFile } from '../shell/index.ts';

export const handedPalette = ({ title, swatches }: PaletteItem): HandedPalette => ({
  name: title || 'Palette',
  swatches: swatches.map(({ hex, share, name }) => ({ hex, share, name })),
});

/** A palette as flat patches of exact sRGB. */
export async function sheetOf(palette: PaletteItem): Promise<Blob> {
  const { width, height, data } = paletteToSheet(handedPalette(palette), palette.isByShare);
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')!.putImageData(new ImageData(data, width, height), 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}

export async function savePalette(palette: PaletteItem, kind: PaletteFile | 'png'): Promise<void> {
  const name = identifierOf(palette.title || 'palette');
  if (kind === 'png') saveFile(await sheetOf(palette), `${name}.png`);
  else {
    const { ending, type, write } = PALETTE_FILES[kind];
    saveFile(
      new Blob([write(handedPalette(palette))], { type: `${type};charset=utf-8` }),
      `${name}${ending}`,
    );
  }
}

/** The palette as text, a colour a line. */
export const paletteText = ({ swatches }: PaletteItem): string =>
  swatches.map(({ hex, share, name }) => `${hex}\t${(share * 100).toFixed(1)} %\t${name}`).join('\n');

import { cssToPalette, paletteToCss } from './css.ts';
import { type HandedPalette, MOST_CHARACTERS, PaletteFileError } from './handed-palette.ts';
import { jsonToPalette, paletteToJson } from './json.ts';
import { paletteToSvg, svgToPalette } from './svg.ts';
import { paletteToTokens, tokensToPalette } from './tokens.ts';

export { identifierOf } from './css.ts';
export * from './handed-palette.ts';
export * from './sheet.ts';
export { patchesOf } from './svg.ts';

/** Files of text that a palette can be; a sheet of pixels is another matter (`paletteToSheet`). */
export const PALETTE_FILES = {
  css: { words: 'CSS custom properties', ending: '.css', type: 'text/css', write: paletteToCss },
  tokens: {
    ...{ words: 'design tokens', ending: '.tokens.json', type: 'application/json' },
    write: paletteToTokens,
  },
  json: { words: 'JSON', ending: '.palette.json', type: 'application/json', write: paletteToJson },
  svg: { words: 'SVG sheet', ending: '.svg', type: 'image/svg+xml', write: paletteToSvg },
} as const satisfies Readonly<
  Record<
    string,
    {
      readonly words: string;
      readonly ending: string;
      readonly type: string;
      readonly write: (palette: HandedPalette) => string;
    }
  >
>;
export type PaletteFile = keyof typeof PALETTE_FILES;

/**
 * A palette of a file of text, whichever of these it is.
 *
 * @throws PaletteFileError with what is wrong, in words
 */
export function readPaletteFile(name: string, text: string): HandedPalette {
  if (text.length > MOST_CHARACTERS) throw new PaletteFileError('This file is too large for a palette.');
  const read = palette(name, text);
  return read.name === 'palette'
    ? { ...read, name: name.replace(/(\.[a-z]+){1,2}$/i, '') || read.name }
    : read;
}

function palette(name: string, text: string): HandedPalette {
  const start = text.replace(/^\uFEFF/, '').trimStart();
  if (start.startsWith('{')) {
    const isOurs = /"kind"\s*:\s*"palette"/.test(start);
    return isOurs ? jsonToPalette(start) : tokensToPalette(start);
  }
  if (start.startsWith('<')) return svgToPalette(start);
  if (/\.css$/i.test(name) || start.includes('--')) return cssToPalette(start);
  throw new PaletteFileError('Palettes are read from CSS, design tokens, JSON, SVG and PNG.');
}

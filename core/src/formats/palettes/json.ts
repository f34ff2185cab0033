import { hexToOklab } from '../../colour/index.ts';
import { type HandedPalette, isHex, PaletteFileError, wholePalette } from './handed-palette.ts';

const KIND = 'palette';
const VERSION = 1;

/** A palette as plain JSON: see `docs/formats/palette.md`. */
export function paletteToJson({ name, swatches }: HandedPalette): string {
  const digits = (value: number) => Number(value.toFixed(5));
  return `${JSON.stringify(
    {
      kind: KIND,
      version: VERSION,
      name,
      swatches: swatches.map(({ hex, share, name: words }) => {
        const { l, a, b } = hexToOklab(hex);
        return { hex, share, name: words, oklab: [digits(l), digits(a), digits(b)] };
      }),
    },
    null,
    2,
  )}\n`;
}

export function jsonToPalette(text: string): HandedPalette {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw new PaletteFileError('This file is no JSON.');
  }
  const { kind, version, name, swatches } = (read ?? {}) as Readonly<Record<string, unknown>>;
  if (kind !== KIND || !Array.isArray(swatches)) throw new PaletteFileError('This JSON is no palette.');
  if (version !== VERSION)
    throw new PaletteFileError(`This palette is of version ${String(version)}; version ${VERSION} is read.`);
  return wholePalette(
    typeof name === 'string' ? name : '',
    swatches.flatMap((one: unknown) => {
      const { hex, share, name: words } = (one ?? {}) as Readonly<Record<string, unknown>>;
      if (!isHex(hex)) return [];
      return [
        {
          ...{ hex, name: typeof words === 'string' ? words : '' },
          share: typeof share === 'number' ? share : undefined,
        },
      ];
    }),
  );
}

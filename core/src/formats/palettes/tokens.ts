import { rgbOfHex } from '../../colour/index.ts';
import { hexOfCss } from './css-colour.ts';
import { type HandedPalette, isHex, PaletteFileError, wholePalette } from './handed-palette.ts';

/** What is ours in a file of tokens: the draft asks for reversed domains. */
const EXTENSION = 'org.miradero.palette';
/** Tokens within groups within groups … and so on are not followed. */
const MOST_DEEP = 20;

type Json = Readonly<Record<string, unknown>>;
const isJson = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Names of tokens hold none of `{ } .` and do not begin with `$`. */
const keyOf = (name: string, index: number): string =>
  `colour ${index + 1} ${name}`.replaceAll(/[{}.$]/g, '').trim();

/**
 * A palette as design tokens: a group of colours in sRGB.
 * Source: Design Tokens Community Group (W3C), "Design Tokens Format Module" and "Color Module", drafts of 2025.
 */
export function paletteToTokens({ name, swatches }: HandedPalette): string {
  const group = Object.fromEntries(
    swatches.map((swatch, index) => {
      const { r, g, b } = rgbOfHex(swatch.hex);
      return [
        keyOf(swatch.name, index),
        {
          $type: 'color',
          $value: {
            ...{ colorSpace: 'srgb', components: [r, g, b].map((one) => Number(one.toFixed(6))), alpha: 1 },
            hex: swatch.hex,
          },
          ...(swatch.name && { $description: swatch.name }),
          $extensions: { [EXTENSION]: { share: swatch.share } },
        },
      ];
    }),
  );
  return `${JSON.stringify({ palette: { $description: name, ...group } }, null, 2)}\n`;
}

/** Spaces of the draft by their CSS names; others have functions of their own. */
const FUNCTIONS: Readonly<Record<string, string>> = {
  ...{ hsl: 'hsl', hwb: 'hwb', lab: 'lab', lch: 'lch', oklab: 'oklab', oklch: 'oklch' },
};
/** Parts of these are written with a percent sign by CSS. */
const PERCENT: Readonly<Record<string, readonly boolean[]>> = {
  ...{ hsl: [false, true, true], hwb: [false, true, true] },
};

function hexOfValue(value: unknown): string | undefined {
  if (typeof value === 'string') return hexOfCss(value);
  if (!isJson(value)) return undefined;
  const { colorSpace, components, hex } = value;
  if (typeof colorSpace === 'string' && Array.isArray(components) && components.length === 3) {
    const parts = components.map((one: unknown, index) => {
      if (one === 'none') return 'none';
      return `${Number(one)}${PERCENT[colorSpace]?.[index] ? '%' : ''}`;
    });
    const of = FUNCTIONS[colorSpace];
    const read = hexOfCss(of ? `${of}(${parts.join(' ')})` : `color(${colorSpace} ${parts.join(' ')})`);
    if (read) return read;
  }
  return isHex(hex) ? hex : undefined;
}

/** Every colour of a file of design tokens, in their order; one that is another's alias is that colour. */
export function tokensToPalette(text: string): HandedPalette {
  let root: unknown;
  try {
    root = JSON.parse(text);
  } catch {
    throw new PaletteFileError('This file is no JSON.');
  }
  if (!isJson(root)) throw new PaletteFileError('This file holds no design tokens.');
  const found: { path: string; value: unknown; name: string; share: number | undefined }[] = [];
  const tokens = new Map<string, unknown>();
  let title = '';
  const walk = (node: Json, path: readonly string[], inherited: unknown) => {
    if (path.length > MOST_DEEP) return;
    const type = node.$type ?? inherited;
    if ('$value' in node) {
      tokens.set(path.join('.'), node.$value);
      if (type !== 'color') return;
      const extensions = isJson(node.$extensions) ? node.$extensions[EXTENSION] : undefined;
      const share = isJson(extensions) && typeof extensions.share === 'number' ? extensions.share : undefined;
      const words = typeof node.$description === 'string' ? node.$description : (path.at(-1) ?? '');
      found.push({ path: path.join('.'), value: node.$value, name: words, share });
      return;
    }
    if (path.length === 1 && title === '')
      title = typeof node.$description === 'string' ? node.$description : path[0]!;
    for (const [key, child] of Object.entries(node))
      if (!key.startsWith('$') && isJson(child)) walk(child, [...path, key], type);
  };
  walk(root, [], undefined);
  const resolve = (value: unknown, deep = 0): unknown => {
    const alias = typeof value === 'string' ? /^\{([^{}]+)\}$/.exec(value)?.[1] : undefined;
    return alias !== undefined && deep < MOST_DEEP ? resolve(tokens.get(alias), deep + 1) : value;
  };
  return wholePalette(
    title,
    found.flatMap(({ value, name, share }) => {
      const hex = hexOfValue(resolve(value));
      return hex ? [{ hex, name, share }] : [];
    }),
  );
}

import { hexOfCss } from './css-colour.ts';
import { type HandedPalette, shareText, wholePalette } from './handed-palette.ts';

/** A name as CSS identifiers may be: letters, digits and hyphens; what else there is becomes a hyphen. */
export const identifierOf = (name: string): string =>
  name
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]+/gu, '-')
    .replaceAll(/^-+|-+$/g, '')
    .slice(0, 60) || 'palette';

/** What a comment may hold: nothing ends it early. */
const commentOf = (words: string): string => words.replaceAll('*/', '* /').replaceAll(/\s+/g, ' ');

/**
 * A palette as custom properties: one for each colour, and one for its share.
 * Source: W3C, "CSS Custom Properties for Cascading Variables Module Level 1".
 */
export function paletteToCss({ name, swatches }: HandedPalette): string {
  const of = identifierOf(name);
  const lines = swatches.flatMap((swatch, index) => [
    `  --${of}-${index + 1}: ${swatch.hex};${swatch.name ? ` /* ${commentOf(swatch.name)} */` : ''}`,
    `  --${of}-${index + 1}-share: ${shareText(swatch.share)};`,
  ]);
  return `/* ${commentOf(name)} */\n:root {\n${lines.join('\n')}\n}\n`;
}

const PROPERTY = /--([\p{L}\p{N}_-]+)\s*:\s*([^;{}]+?)\s*(?:;|(?=\}))(?:[ \t]*\/\*([^\n]*?)\*\/)?/gu;

/** Every custom property that is a colour, in their order; `…-share` beside it is its share. */
export function cssToPalette(text: string): HandedPalette {
  const properties = [...text.matchAll(PROPERTY)].map(([, key, value, words]) => ({
    ...{ key: key!, value: value!.replaceAll(/\/\*.*?\*\//gs, '').trim(), words: words?.trim() },
  }));
  const shares = new Map(
    properties
      .filter(({ key, value }) => key.endsWith('-share') && value !== '' && Number.isFinite(Number(value)))
      .map(({ key, value }) => [key.slice(0, -'-share'.length), Number(value)]),
  );
  const title = /^\s*\/\*\s*([^\n]*?)\s*\*\//.exec(text)?.[1];
  return wholePalette(
    title ?? '',
    properties.flatMap(({ key, value, words }) => {
      const hex = hexOfCss(value);
      return hex ? [{ hex, share: shares.get(key), name: words ?? '' }] : [];
    }),
  );
}

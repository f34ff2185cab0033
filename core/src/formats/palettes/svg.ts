import { hexOfCss } from './css-colour.ts';
import { type HandedPalette, type HandedSwatch, shareText, wholePalette } from './handed-palette.ts';

/** Side of a patch, and width of the whole where patches are as wide as their shares, SVG units. */
const PATCH = 120;
const WIDTH = 960;

const ENTITIES: Readonly<Record<string, string>> = {
  ...{ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' },
};
/** Control characters are not allowed in XML, however they are written. */
const escaped = (text: string): string =>
  [...text]
    .filter((one) => one >= ' ' || one === '\t')
    .map((one) => ENTITIES[one] ?? one)
    .join('');
const unescaped = (text: string): string =>
  text
    .replaceAll(/&#x([0-9a-f]{1,6});/gi, (_, code: string) => characterOf(Number.parseInt(code, 16)))
    .replaceAll(/&#(\d{1,7});/g, (_, code: string) => characterOf(Number(code)))
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&quot;', '"')
    .replaceAll('&apos;', "'")
    .replaceAll('&amp;', '&');
const characterOf = (code: number): string =>
  code > 0 && code <= 0x10ffff && !(code >= 0xd800 && code <= 0xdfff) ? String.fromCodePoint(code) : '';

/** Patches side by side. @returns left edge and width of each, in `width` units */
export function patchesOf(
  swatches: readonly Pick<HandedSwatch, 'share'>[],
  width: number,
  isByShare: boolean,
): { readonly x: number; readonly width: number }[] {
  let x = 0;
  return swatches.map(({ share }) => {
    const patch = { x, width: isByShare ? share * width : width / swatches.length };
    x += patch.width;
    return patch;
  });
}

/** A palette as a sheet of patches. @param isByShare - as wide as their shares instead of alike */
export function paletteToSvg({ name, swatches }: HandedPalette, isByShare = false): string {
  const width = isByShare ? WIDTH : PATCH * swatches.length;
  const patches = patchesOf(swatches, width, isByShare);
  const digits = (value: number) => Number(value.toFixed(3));
  const rects = swatches.map(({ hex, share, name: words }, index) => {
    const { x, width: wide } = patches[index]!;
    return `  <rect x="${digits(x)}" y="0" width="${digits(wide)}" height="${PATCH}" fill="${hex}" data-share="${shareText(share)}"><title>${escaped(words)}</title></rect>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${PATCH}" viewBox="0 0 ${width} ${PATCH}" shape-rendering="crispEdges">\n  <title>${escaped(name)}</title>\n${rects.join('\n')}\n</svg>\n`;
}

const RECT = /<rect\b([^>]*?)(?:\/>|>(?:\s*<title>([^<]*)<\/title>)?)/g;
const attribute = (attributes: string, name: string): string | undefined =>
  new RegExp(`(?:^|\\s)${name}\\s*=\\s*(?:"([^"]*)"|'([^']*)')`)
    .exec(attributes)
    ?.slice(1)
    .find((one) => one !== undefined);

/** Rectangles filled with one colour, in their order. */
export function svgToPalette(text: string): HandedPalette {
  if (!/<svg\b/.test(text)) return wholePalette('', []);
  const title = /<svg\b[^>]*>\s*<title>([^<]*)<\/title>/.exec(text)?.[1];
  return wholePalette(
    unescaped(title ?? ''),
    [...text.matchAll(RECT)].flatMap(([, attributes, words]) => {
      const fill =
        attribute(attributes!, 'fill') ??
        /fill\s*:\s*([^;"']+)/.exec(attribute(attributes!, 'style') ?? '')?.[1];
      const hex = fill === undefined ? undefined : hexOfCss(fill);
      const share = attribute(attributes!, 'data-share');
      return hex
        ? [{ hex, name: unescaped(words ?? ''), share: share === undefined ? undefined : Number(share) }]
        : [];
    }),
  );
}

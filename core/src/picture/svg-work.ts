const PRIMITIVE = /<(?:\w+:)?fe([A-Z]\w*)\b([^<>]*)>/g;
const USE = /filter\s*(?:=\s*["']|:)\s*(?:url\(|[a-z-]+\()/gi;

const attribute = (text: string, name: string): string | undefined =>
  new RegExp(`\\b${name}\\s*=\\s*["']([^"']*)["']`).exec(text)?.[1];

/** One or two numbers; the second is the first where it is not given. Source: Filter Effects 1, 9.17. */
function pairOf(text: string | undefined, fallback: number): [number, number] {
  const [first = Number.NaN, second = first] = (text ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const safe = (value: number) => (Number.isFinite(value) ? Math.abs(value) : fallback);
  return [safe(first), safe(second)];
}

/**
 * Milliseconds that librsvg 2.60 takes for a million pixels (measured here, one core): a blur of any width; an octave of
 * noise; a line of the window of a morphology; an element of a matrix; anything else.
 */
const MS = { blur: 430, octave: 250, line: 75, element: 55, other: 280 } as const;
const MILLION = 1_000_000;

/**
 * About how long the filters of a drawing take at a size, milliseconds of one core. Larger drawings are drawn in pieces,
 * each with the whole filter: the work grows with the square of their area. An estimate; without filters it is 0.
 *
 * @param text - the drawing's source
 * @param size - pixels at which it is drawn
 */
export function filterWorkOfSvg(
  text: string,
  size: { readonly width: number; readonly height: number },
): number {
  const root = /<(?:\w+:)?svg\b[^<>]*>/.exec(text)?.[0] ?? '';
  const told = Number.parseFloat(attribute(root, 'width') ?? '');
  /** Pixels of a length of the drawing. */
  const scale = told > 0 ? Math.max(1, size.width / told) : 1;
  const longest = Math.max(size.width, size.height);
  let perMillion = 0;
  for (const [, kind = '', rest = ''] of text.matchAll(PRIMITIVE)) {
    if (kind === 'GaussianBlur' || kind === 'DropShadow') perMillion += MS.blur;
    else if (kind === 'Turbulence')
      perMillion += MS.octave * Math.max(1, pairOf(attribute(rest, 'numOctaves'), 1)[0]);
    else if (kind === 'Morphology') {
      const [x, y] = pairOf(attribute(rest, 'radius'), 0);
      perMillion += MS.line * (2 * Math.min(longest, x * scale) + 2 * Math.min(longest, y * scale) + 2);
    } else if (kind === 'ConvolveMatrix') {
      const [x, y] = pairOf(attribute(rest, 'order'), 3);
      perMillion += MS.element * x * y;
    } else if (!/^(?:Func|MergeNode|PointLight|SpotLight|DistantLight)/.test(kind)) perMillion += MS.other;
  }
  if (perMillion === 0) return 0;
  const millions = (size.width * size.height) / MILLION;
  const uses = Math.max(1, [...text.matchAll(USE)].length);
  return perMillion * millions * Math.max(1, millions) * uses;
}

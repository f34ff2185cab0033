import { munsellValueToGrey8, srgbToLinear } from '../../colour/index.ts';
import { TINT_NAMES, TINTS, type Tint } from '../tints.ts';

const VALUE_NAMES = ['v0', 'v1', 'v2', 'v3', 'v4', 'v5', 'v6', 'v7', 'v8', 'v9', 'v10'] as const;
type ValueName = (typeof VALUE_NAMES)[number];

/** Deep colours to write with: the papers' own hues, each readable on the lightest of them. CSS hex. */
const DEEP = {
  sand: '#66500f',
  reed: '#44521a',
  marsh: '#1f5347',
  dusk: '#333f6d',
  brick: '#7d2f1c',
  slate: '#4c4c49',
} as const;
export const INK_NAMES = [...VALUE_NAMES, ...(Object.keys(DEEP) as (keyof typeof DEEP)[])] as const;
export type InkName = (typeof INK_NAMES)[number];
/** `none`: the words stand on the board itself. */
export const PAPER_NAMES = ['none', ...VALUE_NAMES, ...TINT_NAMES] as const;
export type PaperName = (typeof PAPER_NAMES)[number];

/** What notes are written on and with while nothing is chosen. */
export const PAPER = '#fafaf9';
export const INK = '#1d1d1b';
/** What words are written with where nothing is chosen: the first that can be read on the paper. */
const INKS = [INK, '#f0f0ee', '#000000'] as const;
/** Source: WCAG 2.2, success criterion 1.4.3. */
const READABLE = 4.5;

const isValue = (name: string): name is ValueName => name in VALUES;
const VALUES = Object.fromEntries(
  VALUE_NAMES.map((name, value) => {
    const level = munsellValueToGrey8(value).toString(16).padStart(2, '0');
    return [name, `#${level}${level}${level}`];
  }),
) as Record<ValueName, string>;

/** CSS hex; undefined for none. */
export function paperColour(name: PaperName | null | undefined): string | undefined {
  if (name == null) return PAPER;
  if (name === 'none') return undefined;
  return isValue(name) ? VALUES[name] : TINTS[name as Tint];
}

/** Relative luminance, 0..1, of a CSS hex colour. */
export function luminanceOfHex(hex: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => srgbToLinear(Number.parseInt(hex.slice(at, at + 2), 16) / 255));
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
}

/** Contrast ratio of two CSS hex colours, 1..21. Source: WCAG 2.2, definition of contrast ratio. */
export function contrastOfHex(one: string, other: string): number {
  const [a, b] = [luminanceOfHex(one), luminanceOfHex(other)];
  return (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
}

/** What a note is written with, CSS hex: what was chosen, else dark or light by its paper. */
export function inkColour(name: InkName | null | undefined, paper: PaperName | null | undefined): string {
  if (name != null) return isValue(name) ? VALUES[name] : DEEP[name];
  const on = paperColour(paper);
  return (on && INKS.find((ink) => contrastOfHex(ink, on) >= READABLE)) ?? INK;
}

import type { Oklab } from './spaces.ts';
import { oklabToOklch } from './spaces.ts';

/** OKLCH chroma: below it is grey, below it a tinted grey. */
const NEUTRAL = 0.012;
const TINTED = 0.035;
/** OKLab lightness: below it is dark, below it in the middle; above, light. */
const DARK = 0.45;
const MIDDLE = 0.74;
/** Chroma from which the dark, the middle and the light are strong: in the dark there is less of it to be had. */
const STRONG = [0.062, 0.105, 0.105] as const;

type Three = readonly [dark: string, middle: string, light: string];
interface Sector {
  /** It reaches up to this hue, degrees of OKLCH, from where the one before ends. */
  readonly upTo: number;
  readonly dull: Three;
  readonly strong: Three;
}

/** Around the hues of OKLCH, from the rose red at 0°. */
const SECTORS: readonly Sector[] = [
  {
    upTo: 14,
    dull: ['dark wine', 'dull rose', 'soft pink'],
    strong: ['wine red', 'rose red', 'rose pink'],
  },
  {
    upTo: 34,
    dull: ['dark red brown', 'dull red', 'soft salmon'],
    strong: ['deep red', 'red', 'salmon red'],
  },
  {
    upTo: 52,
    dull: ['dark rust brown', 'dull brick', 'soft apricot'],
    strong: ['rust', 'brick orange', 'apricot'],
  },
  {
    upTo: 70,
    dull: ['dark brown', 'dull brown', 'pale tan'],
    strong: ['chestnut', 'orange', 'light orange'],
  },
  {
    upTo: 86,
    dull: ['dark umber', 'dull umber', 'pale sand'],
    strong: ['raw umber', 'ochre', 'golden yellow'],
  },
  {
    upTo: 102,
    dull: ['deep olive brown', 'muted straw brown', 'pale straw'],
    strong: ['bronze', 'mustard', 'warm yellow'],
  },
  {
    upTo: 118,
    dull: ['dark olive', 'dull olive', 'pale lemon grey'],
    strong: ['deep olive', 'olive yellow', 'lemon yellow'],
  },
  {
    upTo: 136,
    dull: ['dark moss green', 'dull moss green', 'pale moss green'],
    strong: ['moss green', 'yellow green', 'light yellow green'],
  },
  {
    upTo: 158,
    dull: ['dull warm green, dark', 'dull warm green', 'dull warm green, pale'],
    strong: ['forest green', 'green', 'light green'],
  },
  {
    upTo: 182,
    dull: ['dull cool green, dark', 'dull cool green', 'dull cool green, pale'],
    strong: ['bottle green', 'sea green', 'mint green'],
  },
  {
    upTo: 212,
    dull: ['dark teal', 'dull teal', 'pale teal'],
    strong: ['deep teal', 'turquoise', 'light turquoise'],
  },
  {
    upTo: 240,
    dull: ['dark slate blue', 'dull sky blue', 'pale sky blue'],
    strong: ['petrol blue', 'cerulean', 'sky blue'],
  },
  {
    upTo: 266,
    dull: ['dark steel blue', 'steel blue', 'pale steel blue'],
    strong: ['deep blue', 'blue', 'light blue'],
  },
  {
    upTo: 290,
    dull: ['dark ink blue', 'dull lavender blue', 'pale lavender blue'],
    strong: ['ultramarine', 'violet blue', 'light violet blue'],
  },
  {
    upTo: 318,
    dull: ['dark violet grey', 'dull violet', 'pale lilac'],
    strong: ['deep violet', 'violet', 'light violet'],
  },
  {
    upTo: 360,
    dull: ['dark plum', 'dull mauve', 'pale mauve'],
    strong: ['purple', 'magenta', 'light magenta'],
  },
];

/** Greys by OKLab lightness up to which they go. */
const GREYS: readonly (readonly [upTo: number, words: string])[] = [
  [0.13, 'black'],
  [0.24, 'near black'],
  [0.36, 'very dark grey'],
  [0.48, 'dark grey'],
  [0.62, 'middle grey'],
  [0.78, 'light grey'],
  [0.92, 'pale grey'],
  [Number.POSITIVE_INFINITY, 'near white'],
];
const TINTS = ['', 'warm ', 'cool '] as const;

/** Hues from here to there are warm, degrees of OKLCH: from magenta red over orange to yellow green. */
const WARM = { from: 340, to: 128 } as const;

/** Whether a hue (degrees, OKLCH) is on the warm side of the circle. */
export const isWarmHue = (hueDeg: number): boolean => hueDeg >= WARM.from || hueDeg < WARM.to;

/** A colour in words: sober, and the same for colours that look alike. */
export function colourWords(colour: Oklab): string {
  const { l, c, h } = oklabToOklch(colour);
  if (c < TINTED) {
    const words = GREYS.find(([upTo]) => l < upTo)![1];
    if (c < NEUTRAL) return l >= 0.995 ? 'white' : words;
    // The darkest and the lightest show no tint.
    return words === 'black' ? words : `${isWarmHue(h) ? 'warm ' : 'cool '}${words}`;
  }
  const { dull, strong } = SECTORS.find(({ upTo }) => h < upTo) ?? SECTORS[0]!;
  const lightness = l < DARK ? 0 : l < MIDDLE ? 1 : 2;
  return (c < STRONG[lightness] ? dull : strong)[lightness];
}

/** Every name there is. */
export const COLOUR_WORDS: readonly string[] = [
  ...new Set([
    'white',
    ...SECTORS.flatMap(({ dull, strong }) => [...dull, ...strong]),
    ...GREYS.flatMap(([, words]) => (words === 'black' ? [words] : TINTS.map((tint) => `${tint}${words}`))),
  ]),
];

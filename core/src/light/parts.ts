/** What light makes of a form, from its brightest to what it throws on the ground. */
export const LIGHT_PARTS = [
  'highlight',
  'light',
  'half-tone',
  'core shadow',
  'reflected light',
  'cast shadow',
] as const;
export type LightPart = (typeof LIGHT_PARTS)[number];

/** A colour for each, `#rrggbb`; null where a form has none. */
export type LightColours = Readonly<Record<LightPart, string | null>>;

export const NO_COLOURS: LightColours = {
  ...{ highlight: null, light: null, 'half-tone': null },
  ...{ 'core shadow': null, 'reflected light': null, 'cast shadow': null },
};

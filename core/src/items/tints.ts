/** Colours of paper for what is set apart: light and dull enough to leave pictures beside them alone. CSS hex. */
export const TINTS = {
  paper: '#f0f0ee',
  sand: '#ded3b8',
  reed: '#c6ceac',
  marsh: '#b3cbc2',
  dusk: '#bcc3d6',
  brick: '#dcb9ab',
  slate: '#b4b4b1',
} as const;
export type Tint = keyof typeof TINTS;
export const TINT_NAMES = Object.keys(TINTS) as Tint[];

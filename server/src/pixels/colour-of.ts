import { parse } from 'icc';
import type { Metadata } from 'sharp';

/** What a picture's own colour is: a name for the person, and bits of a channel. */
export interface OwnColour {
  readonly colour: string;
  readonly depth: number;
}

const DEPTHS: Readonly<Record<string, number>> = {
  uchar: 8,
  char: 8,
  ushort: 16,
  short: 16,
  float: 32,
  uint: 32,
};
const SPACES: Readonly<Record<string, string>> = {
  cmyk: 'CMYK',
  'b-w': 'grey',
  grey16: 'grey',
  lab: 'CIELAB',
  labs: 'CIELAB',
};

function profileName(icc: Buffer): string | undefined {
  try {
    const { description } = parse(icc);
    return description?.replace(/\0/g, '').trim().slice(0, 60) || undefined;
  } catch {
    // A damaged profile is as good as none.
    return undefined;
  }
}

/** The colour space that a file says it has: by its profile, else by its kind of pixels. */
export function colourOf({ icc, space, depth }: Pick<Metadata, 'icc' | 'space' | 'depth'>): OwnColour {
  const profile = icc && profileName(icc);
  const bySpace = SPACES[space ?? ''] ?? 'sRGB';
  const name = profile === undefined ? bySpace : /srgb/i.test(profile) ? 'sRGB' : profile;
  return {
    colour: bySpace === 'CMYK' && profile ? `CMYK, ${profile}` : name,
    depth: DEPTHS[depth ?? 'uchar'] ?? 8,
  };
}

import { type GroundTone, groundFor, type Rgb8, underpainted } from '@miradero/core/paint';
import { whyOf } from '@miradero/core/text';
import { type Desk, sourcesOf } from '../../../desk/index.ts';
import { pixelPool } from '../../../pixels/index.ts';
import type { StudiedPart } from '../messages.ts';
import type { Painting } from './painting.ts';

/** In such a size is looked at what a ground is toned by, px. */
export const TONE_PX = 256;
const UNDER_PX = 1_024;
const UNDER_STEPS = 4;

/** The pixels of what is studied. @throws Error in words */
export async function pixelsOf({ sync }: Desk, { picture, part }: StudiedPart, side: number) {
  const source = sourcesOf(sync.shelf).source(picture);
  if (!source) throw new Error('The picture that is studied is not here any more.');
  return pixelPool().ask('region', { source, part, side });
}

/** How the ground of a sheet can be toned. */
export const TONES = {
  ...{ mean: 'mean', value: 'value', warm: 'warm', cool: 'cool' },
  ...{ 'under warm': 'painted under, warm', 'under cool': 'painted under, cool' },
  ...{ white: 'white', none: 'none' },
} as const;
export type Tone = keyof typeof TONES;

/** Those that are there without a picture that is studied. */
export const PLAIN_TONES: readonly Tone[] = ['white', 'none'];
const WHITE: Rgb8 = [255, 255, 255];

/** What was asked for last: what is looked up longer and was asked for before comes no more. */
const asked = new WeakMap<Painting, symbol>();

/** Tones the ground of a sheet by what is studied. */
export async function toneGround(desk: Desk, painting: Painting, tone: Tone): Promise<void> {
  const reference = painting.facts?.reference;
  const own = Symbol(tone);
  asked.set(painting, own);
  const isAsked = () => asked.get(painting) === own;
  try {
    if (tone === 'white' || tone === 'none') painting.toneGround(tone === 'white' ? WHITE : null, null);
    else if (!reference) throw new Error('There is no picture by which it could be toned.');
    else if (tone === 'under warm' || tone === 'under cool') {
      const hue = tone === 'under warm' ? 'warm' : 'cool';
      const { data, width } = await pixelsOf(desk, reference, UNDER_PX);
      if (!isAsked()) return;
      const picture = await createImageBitmap(new ImageData(underpainted(data, hue, UNDER_STEPS), width));
      if (isAsked()) painting.toneGround(groundFor(data, hue), picture);
      else picture.close();
    } else {
      const { data } = await pixelsOf(desk, reference, TONE_PX);
      if (isAsked()) painting.toneGround(groundFor(data, tone satisfies GroundTone), null);
    }
  } catch (error) {
    if (!isAsked()) return;
    desk.say('The ground could not be toned.', [whyOf(error)]);
  }
}

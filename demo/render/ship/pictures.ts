import { existsSync } from 'node:fs';
import { mkdir, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import sharp, { type Sharp } from 'sharp';
import type { Truth } from '../../truth/truth.ts';
import { masterOf } from '../master.ts';
import { STILLS } from '../shots/index.ts';
import type { Shot } from '../shots/shot.ts';
import { truthOf } from './expose-truth.ts';

export const PICTURES = fileURLToPath(new URL('../../pictures/', import.meta.url));

export const shotNamed = (id: string): Shot => {
  const shot = STILLS.find((one) => one.id === id);
  if (!shot) throw new Error(`there is no shot ${id}`);
  return shot;
};

/** The developed master of a shot, or what was shipped of it, as 8 bits of sRGB. */
export const developed = (shot: Shot): Sharp =>
  sharp(existsSync(masterOf(shot)) ? masterOf(shot) : `${PICTURES}${fileOf(shot)}`).toColourspace('srgb');

export async function writeTruth(truth: Truth): Promise<void> {
  await mkdir(PICTURES, { recursive: true });
  await writeFile(`${PICTURES}${truth.file}.truth.json`, `${JSON.stringify(truth, null, 1)}\n`);
}

/** Pictures shipped as WebP: what a site of today hands out; the rest is JPEG. */
const isWebp = ({ id }: Shot): boolean => /^(sky|surface|head-(above|below))/.test(id);

const QUALITY = { large: 74, jpeg: 79, webp: 78 } as const;

export function fileOf(shot: Shot): string {
  return `${shot.id}.${isWebp(shot) ? 'webp' : 'jpg'}`;
}

/** In which file a shot, or the clip that it is a frame of, is shipped. */
const shippedIn = (shot: Shot): string =>
  shot.scene === 'knot' ? 'knot.gif' : shot.scene === 'wheel' ? 'chain-wheel-turning.mp4' : fileOf(shot);

export const isShipped = (shot: Shot): boolean =>
  [shippedIn(shot), `${shippedIn(shot)}.truth.json`].every((file) => existsSync(`${PICTURES}${file}`));

/** Ships every shot whose master is there; returns those that are neither there nor shipped. */
export async function shipPictures(only: RegExp): Promise<string[]> {
  const missing: string[] = [];
  await mkdir(PICTURES, { recursive: true });
  for (const shot of STILLS.filter(({ id }) => only.test(id))) {
    if (!existsSync(masterOf(shot))) {
      if (!isShipped(shot)) missing.push(shot.id);
      continue;
    }
    const file = fileOf(shot);
    const quality = Math.max(shot.width, shot.height) > 2000 ? QUALITY.large : QUALITY.jpeg;
    const picture = developed(shot);
    const encoded = isWebp(shot)
      ? picture.webp({ quality: QUALITY.webp, effort: 5, smartSubsample: true })
      : picture.jpeg({ quality, mozjpeg: true });
    await encoded.toFile(`${PICTURES}${file}`);
    const mediaType = isWebp(shot) ? 'image/webp' : 'image/jpeg';
    await writeTruth(truthOf(shot, file, mediaType, shot.width, shot.height));
    console.log(`shipped ${file}`);
  }
  return missing;
}

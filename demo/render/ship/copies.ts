import sharp from 'sharp';
import type { Truth } from '../../truth/truth.ts';
import { fileOf, PICTURES, shotNamed, writeTruth } from './pictures.ts';

/** Pictures that come in again and again, a little changed each time. */
export const COPIED = [
  'ferry-000-side',
  'ferry-135-soft',
  'chain-wheel-edge',
  'lantern-060',
  'head-front-soft',
  'mannequin-11',
] as const;

const CROP = { x: 0.04, y: 0.03, width: 0.93, height: 0.92 } as const;

/** Four copies of each: smaller, saved again, cropped, mirrored. All are made from the shipped file, as the web does. */
export async function shipCopies(): Promise<void> {
  for (const id of COPIED) {
    const shot = shotNamed(id);
    const original = fileOf(shot);
    const stem = original.replace(/\.\w+$/, '');
    const { width, height } = await sharp(`${PICTURES}${original}`).metadata();
    const half = Math.round(width * 0.45);
    const cut = {
      ...{ left: Math.round(CROP.x * width), top: Math.round(CROP.y * height) },
      ...{ width: Math.round(CROP.width * width), height: Math.round(CROP.height * height) },
    };
    const source = () => sharp(`${PICTURES}${original}`);
    const copies = [
      { how: 'rescaled', picture: source().resize(half), quality: 76, scale: half / width },
      { how: 'recompressed', picture: source(), quality: 34, scale: 1 },
      { how: 'cropped', picture: source().extract(cut), quality: 70, scale: 1, crop: CROP },
      { how: 'mirrored', picture: source().flop(), quality: 66, scale: 1 },
    ] as const;
    for (const { how, picture, quality, scale, ...rest } of copies) {
      const file = `${stem}-${how}.jpg`;
      const info = await picture.jpeg({ quality, mozjpeg: true }).toFile(`${PICTURES}${file}`);
      await writeTruth({
        ...{ file, title: `${shot.title} (${how})`, subject: shot.subject, kind: 'copy' },
        ...{ mediaType: 'image/jpeg', width: info.width, height: info.height },
        from: { file: original, how, scale: Number(scale.toFixed(5)), ...rest },
      } as Truth);
    }
  }
}

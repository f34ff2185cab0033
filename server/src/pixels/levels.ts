import { type IntakeType, ladderSidesOf, needsTiles, sizeAtSide } from '@miradero/core/picture';
import sharp from 'sharp';
import { rgbaToThumbHash } from 'thumbhash';
import { openPicture } from './open-picture.ts';

const WEBP = { quality: 85, effort: 1 } as const;
/** The longest side that a thumbhash is computed from. Source: thumbhash 0.1, `rgbaToThumbHash` refuses more than 100. */
const THUMBHASH_SIDE = 100;

interface Raw {
  readonly data: Buffer;
  readonly info: { width: number; height: number; channels: 1 | 2 | 3 | 4 };
}

const fromRaw = ({ data, info }: Raw) =>
  sharp(data, { raw: { width: info.width, height: info.height, channels: info.channels } });

/** Kinds of which browsers show every pixel as it is meant; the others get a lossless copy. */
const READ_BY_BROWSERS = new Set<string>([
  'image/jpeg',
  'image/png',
  'image/webp',
  'image/avif',
  'image/gif',
]);

/** Upright and in sRGB. Decodes no larger than `side`; smaller levels are made from these pixels. */
async function decodeTop(picture: PictureFile, side: number): Promise<Raw> {
  const opened = await openPicture(picture.original, picture.type, picture.width, picture.height);
  const { data, info } = await opened
    .autoOrient()
    .resize(side, side, { fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, info: info as Raw['info'] };
}

/** The bytes of a picture, with what intake read from their head. */
export interface PictureFile {
  readonly original: Buffer;
  readonly type: IntakeType;
  readonly width: number;
  readonly height: number;
  readonly colour?: string | null;
}

/** A lossless copy in sRGB of a picture that browsers cannot read, or not in its colours; undefined where none is needed. */
export async function makeReadingMaster(picture: PictureFile): Promise<Buffer | undefined> {
  const { original, type, width, height, colour } = picture;
  const isRead = READ_BY_BROWSERS.has(type) && !colour?.startsWith('CMYK');
  if (isRead || needsTiles(width, height)) return undefined;
  const opened = await openPicture(original, type, width, height);
  return opened.autoOrient().toColourspace('srgb').webp({ lossless: true, effort: 0 }).toBuffer();
}

export interface MadeLevels {
  readonly levels: { readonly side: number; readonly bytes: Buffer }[];
  readonly thumbhash: string;
}

/** Makes the ladder and the thumbhash of a picture. @throws Error when its pixels cannot be read */
export async function makeLevels(picture: PictureFile): Promise<MadeLevels> {
  const { width, height } = picture;
  const sides = ladderSidesOf(width, height).reverse();
  let source = await decodeTop(picture, sides[0]!);
  const levels: MadeLevels['levels'] = [];
  for (const side of sides) {
    const size = sizeAtSide(width, height, side);
    if (size.width !== source.info.width || size.height !== source.info.height) {
      const { data, info } = await fromRaw(source)
        .resize(size.width, size.height, { fit: 'fill' })
        .toBuffer({ resolveWithObject: true });
      source = { data, info: info as Raw['info'] };
    }
    levels.push({ side, bytes: await fromRaw(source).webp(WEBP).toBuffer() });
  }
  const small = await fromRaw(source)
    .resize(THUMBHASH_SIDE, THUMBHASH_SIDE, { fit: 'inside', withoutEnlargement: true })
    .ensureAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const hash = rgbaToThumbHash(small.info.width, small.info.height, small.data);
  return { levels: levels.reverse(), thumbhash: Buffer.from(hash).toString('base64') };
}

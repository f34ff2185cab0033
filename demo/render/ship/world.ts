import { execFile } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import sharp, { type Sharp } from 'sharp';
import type { Truth } from '../../truth/truth.ts';
import { masterOf } from '../master.ts';
import type { Shot } from '../shots/shot.ts';
import { truthOf } from './expose-truth.ts';
import { developed, fileOf, PICTURES, shotNamed, writeTruth } from './pictures.ts';

interface Known {
  readonly title?: string;
  readonly creator: string;
  readonly licence: string;
}

/** Title, creator and licence as XMP says them (Dublin Core). */
function xmpOf({ title, creator, licence }: Known): string {
  const alternative = (text: string) => `<rdf:Alt><rdf:li xml:lang="x-default">${text}</rdf:li></rdf:Alt>`;
  return `<?xpacket begin="" id="W5M0MpCehiHzreSzNTczkc9d"?><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/">${
    title ? `<dc:title>${alternative(title)}</dc:title>` : ''
  }<dc:creator><rdf:Seq><rdf:li>${creator}</rdf:li></rdf:Seq></dc:creator><dc:rights>${alternative(licence)}</dc:rights></rdf:Description></rdf:RDF><?xpacket end="w"?>`;
}

const CAMERA = { Make: 'Fennwright', Model: 'Marsh Box 2' } as const;

/** As a camera writes it: lens, time, and where it stood if `position` says so. */
function exifOf(shot: Shot, takenAt: string, position?: readonly [north: string, west: string]) {
  const focal = String(shot.pose.focalMm);
  return {
    IFD0: { ...CAMERA, DateTime: takenAt },
    IFD2: { DateTimeOriginal: takenAt, FocalLength: `${focal}/1`, FocalLengthIn35mmFilm: focal },
    ...(position
      ? {
          IFD3: {
            GPSLatitudeRef: 'N',
            GPSLatitude: position[0],
            GPSLongitudeRef: 'W',
            GPSLongitude: position[1],
          },
        }
      : {}),
  };
}

/** Turns of a picture that undo what an orientation says: 6 is shown turned by 90° clockwise. */
const STORED_TURN: Readonly<Record<number, number>> = { 1: 0, 3: 180, 6: 270, 8: 90 };

interface FromCamera {
  readonly file: string;
  readonly shot: string;
  readonly takenAt: string;
  readonly orientation: 1 | 3 | 6 | 8;
  readonly position?: readonly [north: string, west: string];
  readonly known?: Known;
}

const INES = { creator: 'Ines Halloway', licence: 'Tidewrack Open Licence' } as const;

const FROM_CAMERA: readonly FromCamera[] = [
  { file: 'IMG_0412.JPG', shot: 'rail-rope', takenAt: '2026:09:14 18:44:12', orientation: 6 },
  {
    ...{ file: 'DSC00731.JPG', shot: 'ferry-225-side', takenAt: '2026:09:14 19:02:40', orientation: 1 },
    position: ['52/1 58/1 1234/100', '0/1 44/1 5120/100'],
  },
  { file: '20260915_061803.jpg', shot: 'reed-channel-dawn', takenAt: '2026:09:15 06:18:03', orientation: 3 },
  {
    ...{ file: 'P1080266.JPG', shot: 'winch-house-door', takenAt: '2026:09:15 08:51:37', orientation: 8 },
    known: { ...INES, title: 'Door of the winch house' },
  },
];

const WORLD = { longest: 1600, quality: 80 } as const;

async function shipFromCamera({
  file,
  shot: id,
  takenAt,
  orientation,
  position,
  known,
}: FromCamera): Promise<void> {
  const shot = shotNamed(id);
  const upright = await developed(shot)
    .resize(WORLD.longest, WORLD.longest, { fit: 'inside' })
    .png()
    .toBuffer();
  const { width, height } = await sharp(upright).metadata();
  let stored: Sharp = sharp(upright)
    .rotate(STORED_TURN[orientation])
    .withExif(exifOf(shot, takenAt, position))
    .withMetadata({ orientation });
  if (known) stored = stored.withXmp(xmpOf(known));
  await stored.jpeg({ quality: WORLD.quality, mozjpeg: true }).toFile(`${PICTURES}${file}`);
  await writeTruth({
    ...truthOf(shot, file, 'image/jpeg', width, height),
    ...copyOf(shot, width),
    embedded: {
      ...{ orientation, focalMm: shot.pose.focalMm, takenAt, profile: 'sRGB', bits: 8 },
      ...{ hasPosition: position !== undefined, ...known },
    },
  } as Truth);
}

const copyOf = (shot: Shot, width: number) => ({
  kind: 'copy',
  from: { file: fileOf(shot), how: 'exported', scale: Number((width / shot.width).toFixed(5)) },
});

interface Converted {
  readonly file: string;
  readonly shot: string;
  readonly width: number;
  readonly mediaType: string;
  readonly embedded: Truth['embedded'];
  write(picture: Sharp, to: string): Promise<unknown>;
}

/** Printers, wide screens, careful modellers and telephones: the same pictures as other programs write them. */
const CONVERTED: readonly Converted[] = [
  {
    ...{ file: 'ferry-poster-cmyk.jpg', shot: 'ferry-045-side', width: 1400, mediaType: 'image/jpeg' },
    embedded: { profile: 'CMYK', bits: 8, title: 'The last chain ferry, poster', ...INES },
    write: (picture, to) =>
      picture
        .toColourspace('cmyk')
        .withIccProfile('cmyk')
        .withXmp(xmpOf({ ...INES, title: 'The last chain ferry, poster' }))
        .jpeg({ quality: 82 })
        .toFile(to),
  },
  {
    ...{
      file: 'lantern-wide-gamut-p3.jpg',
      shot: 'storm-lantern-glass',
      width: 1200,
      mediaType: 'image/jpeg',
    },
    embedded: { profile: 'Display P3', bits: 8, creator: 'Wren Oskin', licence: 'Look-Only Licence' },
    write: (picture, to) =>
      picture
        .withIccProfile('p3')
        .withXmp(xmpOf({ creator: 'Wren Oskin', licence: 'Look-Only Licence' }))
        .jpeg({ quality: 84 })
        .toFile(to),
  },
  {
    ...{ file: 'head-16-bit.png', shot: 'head-profile-side', width: 660, mediaType: 'image/png' },
    embedded: { profile: 'sRGB', bits: 16 },
    write: (picture, to) => picture.toColourspace('rgb16').png({ compressionLevel: 9 }).toFile(to),
  },
];

async function shipConverted({
  file,
  shot: id,
  width,
  mediaType,
  embedded,
  write,
}: Converted): Promise<void> {
  const shot = shotNamed(id);
  await write(sharp(masterOf(shot)).resize(width), `${PICTURES}${file}`);
  const height = Math.round((width * shot.height) / shot.width);
  await writeTruth({
    ...truthOf(shot, file, mediaType, width, height),
    ...copyOf(shot, width),
    embedded,
  } as Truth);
}

const isRendered = (id: string): boolean => existsSync(masterOf(shotNamed(id)));

/** As a telephone keeps it; Debian's heif-enc writes what sharp may not. */
async function shipHeic(): Promise<void> {
  const shot = shotNamed('reed-channel-noon');
  const folder = await mkdtemp(join(tmpdir(), 'heic-'));
  const plain = join(folder, 'plain.png');
  const { width, height } = await developed(shot).resize(1600).png().toFile(plain);
  const file = 'IMG_2077.HEIC';
  await promisify(execFile)('heif-enc', ['-q', '55', '-o', `${PICTURES}${file}`, plain]);
  await rm(folder, { recursive: true });
  await writeTruth({
    ...truthOf(shot, file, 'image/heic', width, height),
    ...copyOf(shot, width),
    embedded: { profile: 'sRGB', bits: 8 },
  } as Truth);
}

export async function shipWorld(): Promise<void> {
  // Without its master a file stays as it was shipped: made from a shipped copy it would be worse each time.
  for (const one of FROM_CAMERA) if (isRendered(one.shot)) await shipFromCamera(one);
  for (const one of CONVERTED) if (isRendered(one.shot)) await shipConverted(one);
  if (isRendered('reed-channel-noon')) await shipHeic();
}

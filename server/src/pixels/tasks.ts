import { readFile } from 'node:fs/promises';
import {
  INTAKE_LIMITS,
  type IntakeType,
  type Measures,
  type Print,
  sizeAtSide,
} from '@miradero/core/picture';
import sharp from 'sharp';
import { readPage } from '../pages/read-page.ts';
import { type ExactTiles, writeExactTiles } from './exact-tiles.ts';
import { examine } from './examine.ts';
import { histogramBytesOf } from './histogram-bytes.ts';
import { type MadeLevels, makeLevels, makeReadingMaster, type PictureFile } from './levels.ts';
import { measuresOfPicture } from './measures-of.ts';
import { openPicture } from './open-picture.ts';
import { type PartOf, writePart } from './part.ts';
import { printOfBytes } from './print-of.ts';
import { writePyramid } from './pyramid.ts';
import { type FileFacts, readFacts } from './read-facts.ts';

/** Longest side at which drawings are measured, pixels. */
const SVG_SIDE = 2048;

/** Everything that is made of a picture before it can be shown. */
export interface Prepared extends MadeLevels {
  readonly reading: Buffer | undefined;
}

/** A picture as it is stored, and what stands for it where only a browser can show it. */
interface Original {
  readonly path: string;
  readonly poster: string | undefined;
  readonly type: IntakeType;
  readonly width: number;
  readonly height: number;
  readonly colour?: string | null;
}

const shown = async ({ path, poster, type, ...rest }: Original): Promise<PictureFile> => ({
  ...rest,
  ...(poster
    ? { original: await readFile(poster), type: 'image/webp' }
    : { original: await readFile(path), type }),
});

/** A drawing has no pixels of its own, and is measured at a ladder's. */
const drawnSize = ({ width, height }: PictureFile) =>
  sizeAtSide(width, height, Math.min(SVG_SIDE, Math.max(width, height)));

/** What a decoding process can be asked for. Every file that somebody brought is read here and nowhere else. */
export const TASKS = {
  examine,

  async facts({ path, keepsPosition }: { path: string; keepsPosition: boolean }): Promise<FileFacts> {
    return readFacts(await readFile(path), keepsPosition);
  },

  async levels(original: Original): Promise<Prepared> {
    const picture = await shown(original);
    return { ...(await makeLevels(picture)), reading: await makeReadingMaster(picture) };
  },

  async pyramid({ folder, ...original }: Original & { folder: string }): Promise<void> {
    await writePyramid(await shown(original), folder);
  },

  /** Writes lossless tiles; see there. */
  async exact({ folder, ...original }: Original & { folder: string }): Promise<ExactTiles> {
    return writeExactTiles(await shown(original), folder);
  },

  /** How often each colour is in it, all pixels counted. */
  async histogram(original: Original): Promise<Buffer> {
    const picture = await shown(original);
    const size = picture.type === 'image/svg+xml' ? drawnSize(picture) : picture;
    const opened = await openPicture(picture.original, picture.type, size.width, size.height);
    return histogramBytesOf(opened);
  },

  /** @param small - the smallest level */
  async measures({ small, ...original }: Original & { small: Buffer }): Promise<Measures> {
    const picture = await shown(original);
    // A poster may be smaller than what it stands for.
    const size = original.poster
      ? await sharp(picture.original).metadata()
      : picture.type === 'image/svg+xml'
        ? drawnSize(picture)
        : picture;
    const opened = await openPicture(picture.original, picture.type, size.width, size.height);
    return measuresOfPicture(opened, small, size.width, size.height);
  },

  /** Lays a part of the upright picture down as an uncompressed vips file: RGBA, sRGB, 8 bits. */
  async part({ part, size, out, ...original }: Original & PartOf): Promise<void> {
    await writePart(await shown(original), { part, size, out });
  },

  async print({ path }: { path: string }): Promise<Print> {
    return printOfBytes(await readFile(path));
  },

  page: readPage,

  /** A small copy as WebP, `side` pixels at most. */
  async small({ path, side }: { path: string; side: number }): Promise<Buffer> {
    // From memory: a drawing read from a path may refer to files beside it.
    return sharp(await readFile(path), { limitInputPixels: INTAKE_LIMITS.pixels })
      .autoOrient()
      .resize(side, side, { fit: 'inside', withoutEnlargement: true })
      .webp({ quality: 78 })
      .toBuffer();
  },
} as const;

export type TaskName = keyof typeof TASKS;
export type TaskInput<K extends TaskName> = Parameters<(typeof TASKS)[K]>[0];
export type TaskResult<K extends TaskName> = Awaited<ReturnType<(typeof TASKS)[K]>>;

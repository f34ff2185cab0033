import { join } from 'node:path';
import { munsellValueToGrey8 } from '@miradero/core/colour';
import { compose, type Rectangle, scaling, translation } from '@miradero/core/geometry';
import type { Drawn } from '@miradero/core/items';
import type { IntakeType } from '@miradero/core/picture';
import { finestSide, flatSize, mostSide, type PlacedPicture } from '@miradero/core/raster';
import type { ExportType, Item, Picture } from '@miradero/core/schema';
import sharp from 'sharp';
import type { Knex } from '../database/connection.ts';
import { paintedSide, readLevelPart } from '../painting/level-pixels.ts';
import { bytesOf, type PartPixels, paintStrips } from '../painting/paint-strips.ts';
import { pixelsInFile } from '../painting/part-pixels.ts';
import { StripsFile } from '../painting/strips-file.ts';
import { DecodeError, type Decoding } from '../pixels/decoding/decoders.ts';
import { readBytes, withBlobFiles } from '../storage/blob-store.ts';

/** A file that was made, and what it is. */
export interface Made {
  readonly path: string;
  readonly type: string;
  /** Pixels; null for several files in one. */
  readonly width: number | null;
  readonly height: number | null;
  /** Pictures that could not be in it. */
  readonly missing: number;
}

export interface MakingFlat {
  /** Lowest first. */
  readonly list: readonly Drawn[];
  readonly items: readonly Item[];
  /** Board units. */
  readonly region: Rectangle;
  readonly pictures: ReadonlyMap<string, Picture>;
  /** For what is laid down meanwhile. */
  readonly folder: string;
  readonly path: string;
  readonly type: ExportType;
  /** Longest side, pixels; null: what the finest picture has. */
  readonly side: number | null;
  readonly ground: 'clear' | 'surround' | 'white';
  /** Munsell value. */
  readonly surround: number;
  /** Throws when it is not wanted any more. */
  readonly isWanted: () => Promise<void>;
}

/** What is painted smaller than this is read from the copies, which are made with losses; everything else from the original, pixels. */
const COPIES_UP_TO = 256;

/** Small copies that are kept while one picture is made, bytes. */
const MOST_COPY_BYTES = 64 * 1024 * 1024;

/** Of the time so much is painting; the rest is packing. */
const PAINTING = 0.7;

/** Above so many pixels packing takes minutes at its best: it is done faster then. */
const LARGE = 40_000_000;

const groundOf = ({ ground, surround, type }: MakingFlat): number | null => {
  if (ground === 'surround') return munsellValueToGrey8(surround);
  return ground === 'white' || type === 'image/jpeg' ? 255 : null;
};

/** Reads parts of pictures: from their originals, each laid down by a decoder, or from copies where those are as good. */
class Reading {
  readonly #knex: Knex;
  readonly #decoders: Decoding;
  readonly #making: MakingFlat;
  readonly missing = new Set<string>();
  readonly #copies = new Map<string, PartPixels>();
  #copyBytes = 0;
  #count = 0;

  constructor(knex: Knex, decoders: Decoding, making: MakingFlat) {
    this.#knex = knex;
    this.#decoders = decoders;
    this.#making = making;
  }

  read = async (placed: PlacedPicture): Promise<PartPixels | undefined> => {
    await this.#making.isWanted();
    const picture = this.#making.pictures.get(placed.picture)!;
    try {
      const isSmall = paintedSide(placed, picture) <= COPIES_UP_TO;
      const pixels = isSmall
        ? await this.#readCopy(placed, picture)
        : await this.#readOriginal(placed, picture);
      if (!pixels) this.missing.add(picture.id);
      return pixels;
    } catch (error) {
      // One that cannot be read is left out, and counted; what went wrong elsewhere ends all of it.
      if (!(error instanceof DecodeError)) throw error;
      this.missing.add(picture.id);
      return undefined;
    }
  };

  /** A picture that stands often is read once, as long as there is room. */
  async #readCopy(placed: PlacedPicture, picture: Picture): Promise<PartPixels | undefined> {
    const { part, size } = placed;
    const key = [picture.id, part.x, part.y, part.width, part.height, size.width, size.height].join();
    const known = this.#copies.get(key);
    if (known) return known;
    const pixels = await readLevelPart(placed, picture, (hash) => readBytes(this.#knex, hash));
    const bytes = size.width * size.height * 4;
    if (pixels && this.#copyBytes + bytes <= MOST_COPY_BYTES) {
      this.#copies.set(key, pixels);
      this.#copyBytes += bytes;
    }
    return pixels;
  }

  async #readOriginal({ part, size }: PlacedPicture, picture: Picture): Promise<PartPixels | undefined> {
    if (picture.state === 'failed') return undefined;
    const { width, height, sha256 } = picture;
    const kept = await this.#knex('pictures').where({ id: picture.id }).first('poster', 'type');
    const type: IntakeType = kept.type;
    const out = join(this.#making.folder, `part-${this.#count++}.v`);
    await withBlobFiles(this.#knex, [sha256, kept?.poster], ([path, poster]) =>
      this.#decoders.run('part', { part, size, out, path: path!, poster, type, width, height }),
    );
    return pixelsInFile(out, size.width, size.height);
  }
}

/** Makes one flat picture, in strips: it takes as much memory as one of them, and what its encoder needs. */
export async function makeFlat(
  knex: Knex,
  decoders: Decoding,
  making: MakingFlat,
  tell: (share: number) => void,
): Promise<Made> {
  const { list, items, region, pictures, folder, path, type } = making;
  const size = flatSize(region, Math.min(mostSide(region, type), making.side ?? finestSide(region, items)));
  const ground = groundOf(making);
  const toTarget = compose(
    scaling(size.width / region.width, size.height / region.height),
    translation(-region.x, -region.y),
  );
  const reading = new Reading(knex, decoders, making);
  const raw = join(folder, 'strips.tif');
  const file = await StripsFile.create(raw, size);
  try {
    await paintStrips({ list, toTarget, size, ground, pictures }, reading.read, async (strip) => {
      await making.isWanted();
      await file.add(bytesOf(strip));
      tell((PAINTING * (strip.y + strip.height)) / size.height);
    });
    await file.finish();
  } catch (error) {
    await file.leave();
    throw error;
  }
  await encode(raw, path, type, ground !== null, size.width * size.height > LARGE);
  const known = list.flatMap(({ primitives }) =>
    primitives.flatMap((one) => (one.kind === 'picture' && !pictures.has(one.picture) ? [one.picture] : [])),
  );
  const missing = new Set([...reading.missing, ...known]).size;
  return { path, type, width: size.width, height: size.height, missing };
}

async function encode(raw: string, path: string, type: ExportType, isOpaque: boolean, isLarge: boolean) {
  const opened = sharp(raw, { limitInputPixels: false, sequentialRead: true });
  const picture = isOpaque ? opened.removeAlpha() : opened;
  switch (type) {
    case 'image/png':
      return picture.png({ compressionLevel: isLarge ? 2 : 6, adaptiveFiltering: !isLarge }).toFile(path);
    case 'image/jpeg':
      // Coding it best would hold the whole picture in memory.
      return picture.jpeg({ quality: 92, chromaSubsampling: '4:4:4', optimiseCoding: !isLarge }).toFile(path);
    case 'image/webp':
      return picture.webp({ quality: 92, effort: 2 }).toFile(path);
  }
}

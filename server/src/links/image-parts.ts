import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { type ImageAddress, parseImageRequest } from '@miradero/core/formats';
import type { IntakeType } from '@miradero/core/picture';
import type { Picture } from '@miradero/core/schema';
import sharp from 'sharp';
import type { Knex } from '../database/connection.ts';
import { pixelsInFile } from '../painting/part-pixels.ts';
import type { Decoders } from '../pixels/decoding/decoders.ts';
import { withBlobFiles } from '../storage/blob-store.ts';
import { makeWorkFolder } from '../storage/work-folders.ts';

/** Pixels that are handed out at once. */
export const MAX_AREA = 4_000_000;
/** Parts that are made at the same time; others wait. */
const AT_ONCE = 2;
const MOST_WAITING = 200;
const KEPT_BYTES = 48 * 1024 * 1024;

/** Parts of originals as JPEG, cut by the decode process; those asked for last are kept. */
export class PartsOfPictures {
  readonly #knex: Knex;
  readonly #decoders: Decoders;
  readonly #kept = new Map<string, Buffer>();
  readonly #making = new Map<string, Promise<Buffer>>();
  readonly #waiting: (() => void)[] = [];
  #keptBytes = 0;
  #running = 0;

  constructor(knex: Knex, decoders: Decoders) {
    this.#knex = knex;
    this.#decoders = decoders;
  }

  /** @throws ImageRequestError for what the standard does not know, or this level does not give */
  async jpegOf(picture: Picture, address: ImageAddress): Promise<Buffer> {
    const { region, size } = parseImageRequest(address, picture, MAX_AREA);
    const key = [picture.id, region.x, region.y, region.width, region.height, size.width, size.height].join();
    const known = this.#kept.get(key);
    if (known) {
      this.#kept.delete(key);
      this.#kept.set(key, known);
      return known;
    }
    const making =
      this.#making.get(key) ?? this.#make(picture, region, size).finally(() => this.#making.delete(key));
    this.#making.set(key, making);
    const bytes = await making;
    this.#keep(key, bytes);
    return bytes;
  }

  #keep(key: string, bytes: Buffer): void {
    if (this.#kept.has(key)) return;
    this.#kept.set(key, bytes);
    this.#keptBytes += bytes.length;
    for (const [oldest, one] of this.#kept) {
      if (this.#keptBytes <= KEPT_BYTES) break;
      this.#kept.delete(oldest);
      this.#keptBytes -= one.length;
    }
  }

  async #make(
    { id, width, height, sha256 }: Picture,
    region: { x: number; y: number; width: number; height: number },
    size: { width: number; height: number },
  ): Promise<Buffer> {
    await this.#turn();
    const folder = await makeWorkFolder();
    try {
      const kept = await this.#knex('pictures').where({ id }).first('poster', 'type');
      const type: IntakeType = kept.type;
      const out = join(folder, 'part.v');
      await withBlobFiles(this.#knex, [sha256, kept.poster], ([path, poster]) =>
        this.#decoders.run('part', { part: region, size, out, path: path!, poster, type, width, height }),
      );
      const pixels = pixelsInFile(out, size.width, size.height);
      const { data } = pixels.read({ x: 0, y: 0, ...size });
      pixels.close();
      const raw = { ...size, channels: 4 as const };
      return await sharp(Buffer.from(data.buffer), { raw })
        .flatten({ background: '#ffffff' })
        .jpeg({ quality: 90 })
        .toBuffer();
    } finally {
      await rm(folder, { recursive: true, force: true });
      this.#running -= 1;
      this.#waiting.shift()?.();
    }
  }

  async #turn(): Promise<void> {
    if (this.#running >= AT_ONCE) {
      if (this.#waiting.length >= MOST_WAITING) throw new Error('too many parts are waited for');
      await new Promise<void>((resolve) => this.#waiting.push(resolve));
    }
    this.#running += 1;
  }
}

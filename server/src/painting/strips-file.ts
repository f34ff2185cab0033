import { type FileHandle, open } from 'node:fs/promises';
import type { PixelSize } from '@miradero/core/raster';

/** Tags of TIFF, and their types. Source: TIFF 6.0, section 8. */
const TAGS = {
  width: 256,
  height: 257,
  bits: 258,
  compression: 259,
  photometric: 262,
  offsets: 273,
  samples: 277,
  rowsPerStrip: 278,
  byteCounts: 279,
  planar: 284,
  extraSamples: 338,
} as const;
const SHORT = 3;
const LONG = 4;

/** RGBA, straight alpha: an extra sample of kind 2. */
const SAMPLES = 4;

/**
 * A picture on disk to which strips are added, top first: an uncompressed TIFF, which encoders read row by row. Up to 4 GB.
 */
export class StripsFile {
  readonly #file: FileHandle;
  readonly #size: PixelSize;
  readonly #offsets: number[] = [];
  readonly #byteCounts: number[] = [];
  #rows = 0;
  #at = 8;

  private constructor(file: FileHandle, size: PixelSize) {
    this.#file = file;
    this.#size = size;
  }

  static async create(path: string, size: PixelSize): Promise<StripsFile> {
    return new StripsFile(await open(path, 'w'), size);
  }

  /** @param bytes - whole rows, RGBA; every strip but the last has as many */
  async add(bytes: Buffer): Promise<void> {
    this.#rows ||= bytes.length / (this.#size.width * SAMPLES);
    await this.#file.write(bytes, 0, bytes.length, this.#at);
    this.#offsets.push(this.#at);
    this.#byteCounts.push(bytes.length);
    this.#at += bytes.length;
  }

  /** Writes the head, and closes the file. */
  async finish(): Promise<void> {
    const { width, height } = this.#size;
    const longer: Buffer[] = [];
    // Directories begin on a word's edge.
    let after = this.#at + (this.#at % 2);
    const entries: Buffer[] = [];
    const count = 11;
    after += 2 + count * 12 + 4;
    const entry = (tag: number, type: typeof SHORT | typeof LONG, values: readonly number[]) => {
      const unit = type === SHORT ? 2 : 4;
      const data = Buffer.alloc(Math.max(4, values.length * unit));
      values.forEach((value, index) => {
        if (type === SHORT) data.writeUInt16LE(value, index * unit);
        else data.writeUInt32LE(value, index * unit);
      });
      const head = Buffer.alloc(12);
      head.writeUInt16LE(tag, 0);
      head.writeUInt16LE(type, 2);
      head.writeUInt32LE(values.length, 4);
      if (data.length === 4) data.copy(head, 8);
      else {
        head.writeUInt32LE(after, 8);
        longer.push(data);
        after += data.length;
      }
      entries.push(head);
    };
    entry(TAGS.width, LONG, [width]);
    entry(TAGS.height, LONG, [height]);
    entry(TAGS.bits, SHORT, [8, 8, 8, 8]);
    entry(TAGS.compression, SHORT, [1]);
    entry(TAGS.photometric, SHORT, [2]);
    entry(TAGS.offsets, LONG, this.#offsets);
    entry(TAGS.samples, SHORT, [SAMPLES]);
    entry(TAGS.rowsPerStrip, LONG, [this.#rows]);
    entry(TAGS.byteCounts, LONG, this.#byteCounts);
    entry(TAGS.planar, SHORT, [1]);
    entry(TAGS.extraSamples, SHORT, [2]);
    const directory = this.#at + (this.#at % 2);
    const head = Buffer.alloc(8);
    head.write('II', 0, 'latin1');
    head.writeUInt16LE(42, 2);
    head.writeUInt32LE(directory, 4);
    const size = Buffer.alloc(2);
    size.writeUInt16LE(entries.length);
    const body = Buffer.concat([size, ...entries, Buffer.alloc(4), ...longer]);
    await this.#file.write(body, 0, body.length, directory);
    await this.#file.write(head, 0, head.length, 0);
    await this.#file.close();
  }

  /** Closes it as it is. */
  async leave(): Promise<void> {
    await this.#file.close().catch(() => {});
  }
}

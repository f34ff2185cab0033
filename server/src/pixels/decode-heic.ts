/// <reference path="./heic-decode.d.ts" />
import { crc32, deflateSync } from 'node:zlib';
import heicDecode from 'heic-decode';
import sharp from 'sharp';

interface HeicImage {
  readonly width: number;
  readonly height: number;
  decode(): Promise<{ data: Uint8ClampedArray; width: number; height: number }>;
}

/** The pictures of a HEIC file; sides are of the upright picture, pixels are decoded when asked for. */
async function imagesOf(original: Buffer): Promise<HeicImage[]> {
  const images: HeicImage[] & { dispose?: () => void } = await heicDecode.all({ buffer: original });
  if (images.length === 0) throw new Error('the file holds no picture');
  return images;
}

export async function sizeOfHeic(original: Buffer): Promise<{ width: number; height: number }> {
  const [first] = await imagesOf(original);
  return { width: first!.width, height: first!.height };
}

/** The ICC profile in the first `colr` box of type `prof`. Source: ISO/IEC 14496-12, 12.1.5. */
function profileOf(original: Buffer): Buffer | undefined {
  const at = original.indexOf('colrprof', 0, 'latin1');
  if (at < 4) return undefined;
  const size = original.readUInt32BE(at - 4);
  return size > 12 && at - 4 + size <= original.length ? original.subarray(at + 8, at - 4 + size) : undefined;
}

/** Puts an ICC profile into a PNG, right after its header. Source: PNG (W3C, third edition), 11.3.2.3. */
export function withProfile(png: Buffer, profile: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from('iCCPprofile\0\0', 'latin1'), deflateSync(profile)]);
  const chunk = Buffer.alloc(body.length + 8);
  chunk.writeUInt32BE(body.length - 4, 0);
  body.copy(chunk, 4);
  chunk.writeUInt32BE(crc32(body), body.length + 4);
  const afterHeader = 8 + 25;
  return Buffer.concat([png.subarray(0, afterHeader), chunk, png.subarray(afterHeader)]);
}

/** Decodes HEIC, which sharp does not read, to a PNG with the file's own colour profile. */
export async function decodeHeic(original: Buffer): Promise<Buffer> {
  const [first] = await imagesOf(original);
  const { data, width, height } = await first!.decode();
  const raw = sharp(Buffer.from(data.buffer, data.byteOffset, data.byteLength), {
    raw: { width, height, channels: 4 },
  });
  const png = await raw.png({ compressionLevel: 1 }).toBuffer();
  const profile = profileOf(original);
  return profile ? withProfile(png, profile) : png;
}

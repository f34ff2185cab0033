import { open } from 'node:fs/promises';
import { INTAKE_LIMITS, type IntakeType, kindOfBytes, type RefusalCode } from '@miradero/core/picture';
import sharp from 'sharp';
import type { ReceivedFile } from './receive-upload.ts';

/** What the header of a picture says; sides are of the upright picture. */
export interface Examined {
  readonly type: IntakeType;
  readonly width: number;
  readonly height: number;
}

async function headOf(path: string): Promise<Uint8Array> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(16), 0, 16, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/** Reads the header alone: kind by content, sides, limits. The pixels are read later, by the job that makes levels. */
export async function examineFile(file: ReceivedFile): Promise<Examined | RefusalCode> {
  if (file.bytes === 0) return 'empty';
  if (file.isCutOff) return 'too-many-bytes';
  const type = kindOfBytes(await headOf(file.path));
  if (type === undefined) return 'unknown-kind';
  try {
    // The limit is ours, below, so that the refusal can say which one it was.
    const { width, height, orientation = 1 } = await sharp(file.path, { limitInputPixels: false }).metadata();
    if (width * height > INTAKE_LIMITS.pixels) return 'too-many-pixels';
    return orientation >= 5 ? { type, width: height, height: width } : { type, width, height };
  } catch {
    return 'damaged';
  }
}

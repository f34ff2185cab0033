import { open, readFile } from 'node:fs/promises';
import {
  INTAKE_LIMITS,
  type IntakeType,
  KIND_BYTES,
  kindOfBytes,
  type RefusalCode,
  shapeOfBytes,
} from '@miradero/core/picture';
import sharp from 'sharp';
import { colourOf, type OwnColour } from '../pixels/colour-of.ts';
import { sizeOfHeic } from '../pixels/decode-heic.ts';
import type { ReceivedFile } from './receive-upload.ts';

/** What the header of a picture says; sides are of the upright picture. */
export interface Examined extends OwnColour {
  readonly type: IntakeType;
  readonly width: number;
  readonly height: number;
}

interface Head extends Omit<Examined, 'type'> {
  readonly frames: number;
}

async function headOf(path: string): Promise<Uint8Array> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(KIND_BYTES), 0, KIND_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

async function readHead(path: string, type: IntakeType): Promise<Head> {
  if (type === 'image/svg+xml') {
    const size = shapeOfBytes(await readFile(path), type);
    if (size === undefined) throw new Error('the drawing does not say its size');
    return { ...size, frames: 1, colour: 'sRGB', depth: 8 };
  }
  if (type === 'image/heic') {
    return { ...(await sizeOfHeic(await readFile(path))), frames: 1, colour: 'sRGB', depth: 8 };
  }
  // The limit is ours, below, so that the refusal can say which one it was.
  const facts = await sharp(path, { limitInputPixels: false }).metadata();
  const { width, height, pageHeight = height, orientation = 1, pages = 1 } = facts;
  const size = orientation >= 5 ? { width: pageHeight, height: width } : { width, height: pageHeight };
  return { ...size, frames: pages, ...colourOf(facts) };
}

/** Reads the header alone: kind by content, sides, limits. The pixels are read later, by the job that makes levels. */
export async function examineFile(file: ReceivedFile): Promise<Examined | RefusalCode> {
  if (file.bytes === 0) return 'empty';
  if (file.isCutOff) return 'too-many-bytes';
  const type = kindOfBytes(await headOf(file.path));
  if (type === undefined) return 'unknown-kind';
  if (type === 'image/svg+xml' && file.bytes > INTAKE_LIMITS.svgBytes) return 'too-many-bytes';
  try {
    const { frames, ...facts } = await readHead(file.path, type);
    if (!(facts.width > 0 && facts.height > 0)) return 'damaged';
    if (facts.width * facts.height > INTAKE_LIMITS.pixels) return 'too-many-pixels';
    if (frames > INTAKE_LIMITS.frames) return 'too-many-frames';
    return { type, ...facts };
  } catch {
    return 'damaged';
  }
}

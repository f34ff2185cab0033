import { INTAKE_LIMITS, type IntakeType, kindOfBytes, type RefusalCode } from '@miradero/core/picture';
import { imageSize } from 'image-size';

/** Enough for the header of any ordinary file; longer ones are read whole. */
const HEAD_BYTES = 256 * 1024;

export interface FileShape {
  readonly type: IntakeType;
  /** Pixels of the upright picture. */
  readonly width: number;
  readonly height: number;
}

function measure(bytes: Uint8Array): { width: number; height: number } | undefined {
  try {
    const { width, height, orientation = 1 } = imageSize(bytes);
    return orientation >= 5 ? { width: height, height: width } : { width, height };
  } catch {
    return undefined;
  }
}

/** Reads kind and sides from the head of a file, so that its shape can stand on the board at once. */
export async function shapeOfFile(file: Blob): Promise<FileShape | RefusalCode> {
  if (file.size === 0) return 'empty';
  if (file.size > INTAKE_LIMITS.bytes) return 'too-many-bytes';
  const head = new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer());
  const type = kindOfBytes(head);
  if (type === undefined) return 'unknown-kind';
  let sides = measure(head);
  if (sides === undefined && file.size > HEAD_BYTES)
    sides = measure(new Uint8Array(await file.arrayBuffer()));
  if (sides === undefined || !(sides.width > 0 && sides.height > 0)) return 'damaged';
  if (sides.width * sides.height > INTAKE_LIMITS.pixels) return 'too-many-pixels';
  return { type, ...sides };
}

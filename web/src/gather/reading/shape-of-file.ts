import { mergedOfOpenRaster, motionOfBytes } from '@miradero/core/formats';
import { isModelType, isObjArchive, isZip, lookAtModel } from '@miradero/core/model';
import {
  filterWorkOfSvg,
  INTAKE_LIMITS,
  type IntakeType,
  isPostered,
  kindOfBytes,
  MODEL_VIEW,
  type RefusalCode,
  shapeOfBytes,
} from '@miradero/core/picture';

/** Enough for the header of any ordinary file; longer ones are read whole. */
const HEAD_BYTES = 256 * 1024;

export interface FileShape {
  readonly type: IntakeType;
  /** Pixels of the upright picture. */
  readonly width: number;
  readonly height: number;
}

function sidesOf(bytes: Uint8Array, type: IntakeType): { width: number; height: number } | undefined {
  if (type === 'image/openraster') {
    const merged = mergedOfOpenRaster(bytes, INTAKE_LIMITS.bytes);
    return merged && shapeOfBytes(merged, 'image/png');
  }
  if (!isPostered(type)) return shapeOfBytes(bytes, type);
  if (isModelType(type)) return MODEL_VIEW;
  const { width, height } = motionOfBytes(bytes, type) ?? {};
  return width && height ? { width, height } : undefined;
}

/** Reads kind and sides from the head of a file, so that its shape can stand on the board at once. */
export async function shapeOfFile(file: Blob): Promise<FileShape | RefusalCode> {
  if (file.size === 0) return 'empty';
  if (file.size > INTAKE_LIMITS.bytes) return 'too-many-bytes';
  const head = new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer());
  const whole = async () => new Uint8Array(await file.arrayBuffer());
  const kind = kindOfBytes(head, file.size);
  const type =
    isZip(head) && kind !== 'image/openraster'
      ? isObjArchive(await whole())
        ? 'model/x.obj+zip'
        : undefined
      : kind;
  if (type === undefined) return 'unknown-kind';
  if (type === 'image/svg+xml' && file.size > INTAKE_LIMITS.svgBytes) return 'too-many-bytes';
  // What is text, or packed, is looked at by the server: here it would hold up the hand.
  if (type === 'model/gltf-binary' || type === 'model/stl') {
    const look = lookAtModel(await whole(), type);
    if (typeof look === 'string') return look;
  }
  const isWhole = file.size <= HEAD_BYTES;
  const sides = sidesOf(head, type) ?? (isWhole ? undefined : sidesOf(await whole(), type));
  if (sides === undefined) return 'damaged';
  if (sides.width * sides.height > INTAKE_LIMITS.pixels) return 'too-many-pixels';
  if (type === 'image/svg+xml' && filterWorkOfSvg(await file.text(), sides) > INTAKE_LIMITS.filterWork)
    return 'too-much-work';
  return { type, ...sides };
}

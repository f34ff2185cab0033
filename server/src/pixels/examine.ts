import { open, readFile, stat } from 'node:fs/promises';
import { mergedOfOpenRaster, motionOfBytes } from '@miradero/core/formats';
import { isModelType, isObjArchive, isZip, lookAtModel } from '@miradero/core/model';
import {
  filterWorkOfSvg,
  INTAKE_LIMITS,
  type IntakeType,
  KIND_BYTES,
  kindOfBytes,
  MODEL_VIEW,
  type PictureKind,
  type RefusalCode,
  shapeOfBytes,
} from '@miradero/core/picture';
import sharp from 'sharp';
import { colourOf, type OwnColour } from './colour-of.ts';
import { sizeOfHeic } from './decode-heic.ts';
import { asStillAvif } from './still-avif.ts';

/** What the header of a picture says; sides are of the upright picture. */
export interface Examined extends OwnColour {
  readonly type: IntakeType;
  readonly kind: PictureKind;
  readonly width: number;
  readonly height: number;
  readonly frames: number;
  readonly durationMs: number | null;
  /** Of a model. */
  readonly triangles?: number;
}

type Head = Omit<Examined, 'type'>;

const PLAIN = { kind: 'still', frames: 1, durationMs: null, colour: 'sRGB', depth: 8 } as const;

async function headOf(path: string): Promise<Uint8Array> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(KIND_BYTES), 0, KIND_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/** Kinds whose motion libvips does not tell, with how much of the file says it. */
async function readMotion(path: string, type: IntakeType) {
  return type === 'image/avif' || type === 'image/png'
    ? motionOfBytes(await readFile(path), type)
    : undefined;
}

async function readHead(path: string, type: IntakeType): Promise<Head | RefusalCode> {
  if (type === 'image/svg+xml') {
    const bytes = await readFile(path);
    const size = shapeOfBytes(bytes, type);
    if (size === undefined) return 'damaged';
    if (filterWorkOfSvg(bytes.toString('utf8'), size) > INTAKE_LIMITS.filterWork) return 'too-much-work';
    return { ...PLAIN, ...size };
  }
  if (type === 'image/heic') return { ...PLAIN, ...(await sizeOfHeic(await readFile(path))) };
  if (isModelType(type)) {
    const look = lookAtModel(await readFile(path), type);
    return typeof look === 'string' ? look : { ...PLAIN, ...MODEL_VIEW, ...look, kind: 'model' };
  }
  if (type === 'video/mp4' || type === 'video/webm') {
    const motion = motionOfBytes(await readFile(path), type);
    if (!motion?.width || !motion.height) return 'damaged';
    const { width, height, frames, durationMs } = motion;
    return { ...PLAIN, kind: 'clip', width, height, frames, durationMs };
  }
  if (type === 'image/openraster') {
    const merged = mergedOfOpenRaster(await readFile(path), INTAKE_LIMITS.bytes);
    const size = merged && shapeOfBytes(merged, 'image/png');
    return size ? { ...PLAIN, ...size } : 'damaged';
  }
  // The limit is ours, below, so that the refusal can say which one it was.
  const input = type === 'image/avif' ? asStillAvif(await readFile(path)) : path;
  const facts = await sharp(input, { limitInputPixels: false }).metadata();
  const { width, height, pageHeight = height, orientation = 1, pages = 1, delay, format } = facts;
  const size = orientation >= 5 ? { width: pageHeight, height: width } : { width, height: pageHeight };
  // The pages of a TIFF or of a container are pictures of their own, not moments of one.
  const isMoving = pages > 1 && (format === 'gif' || format === 'webp');
  const told = isMoving
    ? { frames: pages, durationMs: delay?.reduce((sum, one) => sum + one, 0) ?? null }
    : undefined;
  const motion = told ?? (await readMotion(path, type));
  return {
    ...size,
    kind: motion && motion.frames > 1 ? 'animated' : 'still',
    frames: motion?.frames ?? pages,
    durationMs: motion?.durationMs ?? null,
    ...colourOf(facts),
  };
}

async function kindOf(path: string, size: number): Promise<IntakeType | undefined> {
  const head = await headOf(path);
  const kind = kindOfBytes(head, size);
  if (!isZip(head) || kind === 'image/openraster') return kind;
  // An archive is one picture where it is one model; the interface unpacks others before it sends anything.
  return isObjArchive(await readFile(path)) ? 'model/x.obj+zip' : undefined;
}

/** Reads the header alone: kind by content, sides, limits. The pixels are read later, by the job that makes levels. */
export async function examine(path: string): Promise<Examined | RefusalCode> {
  const { size } = await stat(path);
  if (size === 0) return 'empty';
  const type = await kindOf(path, size);
  if (type === undefined) return 'unknown-kind';
  if (type === 'image/svg+xml' && size > INTAKE_LIMITS.svgBytes) return 'too-many-bytes';
  try {
    const facts = await readHead(path, type);
    if (typeof facts === 'string') return facts;
    if (!(facts.width > 0 && facts.height > 0)) return 'damaged';
    if (facts.width * facts.height > INTAKE_LIMITS.pixels) return 'too-many-pixels';
    // A clip is read as it plays; of a picture every frame costs when it is opened.
    if (facts.kind !== 'clip' && facts.frames > INTAKE_LIMITS.frames) return 'too-many-frames';
    return { type, ...facts };
  } catch {
    return 'damaged';
  }
}

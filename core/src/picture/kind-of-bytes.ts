import { isBinaryStl, isObjText, isTextStl } from '../model/index.ts';
import type { IntakeType } from './intake-limits.ts';

/** Bytes of a file's head that tell its kind; an SVG may begin with a long comment. */
export const KIND_BYTES = 4096;

const latin = (bytes: Uint8Array, from: number, to: number): string =>
  String.fromCharCode(...bytes.subarray(from, to));

/** What may come before the first element of an SVG: byte order mark, declaration, comments, document type. */
const SVG_PROLOGUE =
  /^(?:\u00ef\u00bb\u00bf)?(?:\s|<\?[^>]*\?>|<!--[\s\S]*?-->|<!DOCTYPE[^[>]*(?:\[[^\]]*\])?\s*>)*/i;

/** Brands of the ISO base media file format. Source: ISO/IEC 14496-12 4.3; HEIF ISO/IEC 23008-12; AVIF 1.1. */
function kindOfBrands(head: Uint8Array): IntakeType | undefined {
  const size = (head[0]! << 24) | (head[1]! << 16) | (head[2]! << 8) | head[3]!;
  const brands: string[] = [];
  // At 12 stands the minor version, which is no brand.
  for (let at = 8; at + 4 <= Math.min(size, head.length); at += at === 8 ? 8 : 4) {
    brands.push(latin(head, at, at + 4));
  }
  if (brands.some((brand) => brand === 'avif' || brand === 'avis')) return 'image/avif';
  if (brands.some((brand) => /^(hei[cxms]|hev[cx]|mif1|msf1)$/.test(brand))) return 'image/heic';
  return brands.some((brand) => /^(isom|iso\d|mp4\d|avc1|M4V |dash|msdh)$/.test(brand))
    ? 'video/mp4'
    : undefined;
}

const OPENRASTER = 'mimetypeimage/openraster';
/** Whether bytes begin as an OpenRaster file does: its first entry says so, and is not packed; its name begins at byte 30. */
const isOpenRaster = (head: Uint8Array): boolean =>
  head[0] === 0x50 && head[1] === 0x4b && latin(head, 30, 30 + OPENRASTER.length) === OPENRASTER;

/**
 * The kind of picture that bytes begin with, whatever the file is called; `undefined` for anything not taken in.
 * Signatures: JPEG ISO/IEC 10918-1 B.1.1.3, PNG (W3C, third edition) 5.2, WebP RFC 9649 2.4, GIF89a 17, TIFF 6.0
 * section 2 (with 43 for BigTIFF), SVG 2, WebM (RFC 8794 with the document type `webm`), glTF 2.0 4.4.2. A binary STL has
 * no signature: its length says it. An archive that is a model is told by `isObjArchive`, from all of it.
 *
 * @param head - the first bytes of the file, `KIND_BYTES` of them where there are so many
 * @param size - of the whole file, bytes
 */
export function kindOfBytes(head: Uint8Array, size = head.length): IntakeType | undefined {
  const startsWith = (signature: readonly number[], offset = 0) =>
    signature.every((byte, index) => head[offset + index] === byte);
  if (startsWith([0xff, 0xd8, 0xff])) return 'image/jpeg';
  if (startsWith([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])) return 'image/png';
  if (startsWith([0x52, 0x49, 0x46, 0x46]) && startsWith([0x57, 0x45, 0x42, 0x50], 8)) return 'image/webp';
  const signature = latin(head, 0, 6);
  if (signature === 'GIF87a' || signature === 'GIF89a') return 'image/gif';
  if (/^II[*+]\0/.test(signature) || /^MM\0[*+]/.test(signature)) return 'image/tiff';
  if (isOpenRaster(head)) return 'image/openraster';
  if (latin(head, 4, 8) === 'ftyp') return kindOfBrands(head);
  if (signature.startsWith('glTF')) return 'model/gltf-binary';
  if (startsWith([0x1a, 0x45, 0xdf, 0xa3])) {
    return /\x42\x82[\x81-\x88]webm/.test(latin(head, 0, 80)) ? 'video/webm' : undefined;
  }
  const text = latin(head, 0, KIND_BYTES);
  if (/^<(?:\w+:)?svg[\s>/]/.test(text.replace(SVG_PROLOGUE, ''))) return 'image/svg+xml';
  if (isBinaryStl(head, size) || isTextStl(head)) return 'model/stl';
  return isObjText(head.subarray(0, KIND_BYTES)) ? 'model/obj' : undefined;
}

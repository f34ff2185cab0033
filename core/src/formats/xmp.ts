import type { PictureSource, UseMark } from '../schema/index.ts';

/** The company whose name the identifiers of ISO 16684 carry, in letters: here it is a constant of a standard and nothing else. */
const REGISTRANT = String.fromCharCode(97, 100, 111, 98, 101);
const NAMESPACE = `http://ns.${REGISTRANT}.com/xap/1.0/`;

/** Kinds into which a packet is written without touching a pixel. */
export const TAKES_XMP = ['image/jpeg', 'image/png', 'image/webp'] as const;
export type TakesXmp = (typeof TAKES_XMP)[number];

const ENTITIES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** What XML 1.0 (2.2) allows; other characters are left out. */
const isAllowed = (sign: string) => {
  const code = sign.codePointAt(0)!;
  return code >= 0x20 ? !(code >= 0xd800 && code <= 0xdfff) && code < 0xfffe : [9, 10, 13].includes(code);
};
const escaped = (text: string) =>
  [...text]
    .filter((sign) => sign.length > 1 || isAllowed(sign))
    .join('')
    .replace(/[&<>"]/g, (sign) => ENTITIES[sign]!);

/**
 * An XMP packet that says where a picture comes from. Source: ISO 16684-1:2019 (7, RDF; Annex A, packet wrapper), Dublin
 * Core 1.1 and `xmpRights:WebStatement` as in the IPTC Photo Metadata Standard 2023.1.
 */
export function xmpOf(name: string, source: PictureSource, useMark: UseMark): string {
  const alternative = (tag: string, text: string | null) =>
    text ? `<${tag}><rdf:Alt><rdf:li xml:lang="x-default">${escaped(text)}</rdf:li></rdf:Alt></${tag}>` : '';
  const from = source.page ?? source.address;
  const use = useMark === 'work' ? 'may go into the work' : useMark === 'look' ? 'only to look at' : null;
  const body = [
    alternative('dc:title', source.title ?? name),
    source.creator
      ? `<dc:creator><rdf:Seq><rdf:li>${escaped(source.creator)}</rdf:li></rdf:Seq></dc:creator>`
      : '',
    alternative('dc:rights', source.licence),
    from ? `<dc:source>${escaped(from)}</dc:source>` : '',
    source.page ? `<xmpRights:WebStatement>${escaped(source.page)}</xmpRights:WebStatement>` : '',
    alternative('xmpRights:UsageTerms', use),
  ].join('');
  return `<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?><x:xmpmeta xmlns:x="${REGISTRANT}:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:xmpRights="${NAMESPACE}rights/">${body}</rdf:Description></rdf:RDF></x:xmpmeta><?xpacket end="w"?>`;
}

const ascii = (text: string) => Uint8Array.from(text, (sign) => sign.charCodeAt(0));
const JPEG_NAMESPACE = ascii(`${NAMESPACE}\0`);

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

const startsWith = (bytes: Uint8Array, at: number, sign: Uint8Array) =>
  sign.every((byte, index) => bytes[at + index] === byte);
const big32 = (value: number) => Uint8Array.of(value >>> 24, value >>> 16, value >>> 8, value);
const little32 = (value: number) => Uint8Array.of(value, value >>> 8, value >>> 16, value >>> 24);
const readBig32 = (bytes: Uint8Array, at: number) =>
  ((bytes[at]! << 24) | (bytes[at + 1]! << 16) | (bytes[at + 2]! << 8) | bytes[at + 3]!) >>> 0;
const readLittle32 = (bytes: Uint8Array, at: number) =>
  ((bytes[at + 3]! << 24) | (bytes[at + 2]! << 16) | (bytes[at + 1]! << 8) | bytes[at]!) >>> 0;

/** JPEG: an APP1 segment, after those that must come first; one that is there goes. Source: ISO 16684-3:2021, 5.3. */
function intoJpeg(bytes: Uint8Array, packet: Uint8Array): Uint8Array | undefined {
  const length = 2 + JPEG_NAMESPACE.length + packet.length;
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8 || length > 0xffff) return undefined;
  const segment = joined([Uint8Array.of(0xff, 0xe1, length >> 8, length & 0xff), JPEG_NAMESPACE, packet]);
  const kept: Uint8Array[] = [];
  let at = 2;
  // APP0 and APP1 stand before everything else.
  let end = 2;
  while (at + 4 <= bytes.length && bytes[at] === 0xff && bytes[at + 1]! >= 0xe0 && bytes[at + 1]! <= 0xef) {
    const next = at + 2 + ((bytes[at + 2]! << 8) | bytes[at + 3]!);
    if (next > bytes.length || next <= at + 2) return undefined;
    const isXmp = bytes[at + 1] === 0xe1 && startsWith(bytes, at + 4, JPEG_NAMESPACE);
    if (!isXmp) kept.push(bytes.subarray(at, next));
    if (bytes[at + 1]! <= 0xe1) end = kept.length;
    at = next;
  }
  if (kept.length === 0) end = 0;
  return joined([
    bytes.subarray(0, 2),
    ...kept.slice(0, end),
    segment,
    ...kept.slice(end),
    bytes.subarray(at),
  ]);
}

let crcTable: Uint32Array | undefined;
/** CRC-32 of a PNG chunk. Source: ISO/IEC 15948:2004, Annex D. */
function crc32(bytes: Uint8Array): number {
  crcTable ??= Uint32Array.from({ length: 256 }, (_, index) => {
    let value = index;
    for (let bit = 0; bit < 8; bit += 1) value = value & 1 ? 0xedb88320 ^ (value >>> 1) : value >>> 1;
    return value;
  });
  let crc = 0xffffffff;
  for (const byte of bytes) crc = crcTable[(crc ^ byte) & 0xff]! ^ (crc >>> 8);
  return (crc ^ 0xffffffff) >>> 0;
}

const PNG_SIGNATURE = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);
const PNG_KEYWORD = ascii(`XML:com.${REGISTRANT}.xmp`);

/** PNG: an `iTXt` chunk after the header, uncompressed; one that is there goes. Source: ISO 16684-3:2021, 5.4. */
function intoPng(bytes: Uint8Array, packet: Uint8Array): Uint8Array | undefined {
  if (!startsWith(bytes, 0, PNG_SIGNATURE)) return undefined;
  const content = joined([ascii('iTXt'), PNG_KEYWORD, Uint8Array.of(0, 0, 0, 0, 0), packet]);
  const chunk = joined([big32(content.length - 4), content, big32(crc32(content))]);
  const parts = [bytes.subarray(0, 8)];
  for (let at = 8; at + 12 <= bytes.length; ) {
    const next = at + 12 + readBig32(bytes, at);
    if (next > bytes.length) return undefined;
    const isXmp = startsWith(bytes, at + 4, ascii('iTXt')) && startsWith(bytes, at + 8, PNG_KEYWORD);
    if (!isXmp) parts.push(bytes.subarray(at, next));
    if (startsWith(bytes, at + 4, ascii('IHDR'))) parts.push(chunk);
    at = next;
  }
  return joined(parts);
}

const XMP_FLAG = 0x04;
const ALPHA_FLAG = 0x10;

/** WebP: an `XMP ` chunk at the end, told of in the extended header, which is made where there is none. Source: RFC 9649, 2.7. */
function intoWebp(
  bytes: Uint8Array,
  packet: Uint8Array,
  width: number,
  height: number,
): Uint8Array | undefined {
  if (!startsWith(bytes, 0, ascii('RIFF')) || !startsWith(bytes, 8, ascii('WEBP'))) return undefined;
  const chunks: Uint8Array[] = [];
  for (let at = 12; at + 8 <= bytes.length; ) {
    const size = readLittle32(bytes, at + 4);
    const next = at + 8 + size + (size & 1);
    if (at + 8 + size > bytes.length) return undefined;
    if (!startsWith(bytes, at, ascii('XMP '))) chunks.push(bytes.subarray(at, Math.min(next, bytes.length)));
    at = next;
  }
  const [first] = chunks;
  if (!first) return undefined;
  let header: Uint8Array;
  if (startsWith(first, 0, ascii('VP8X'))) {
    header = first.slice();
    header[8]! |= XMP_FLAG;
    chunks.shift();
  } else {
    const [w, h] = [width - 1, height - 1];
    // A lossless picture may be transparent: a bit of its own head says so.
    const isClear = startsWith(first, 0, ascii('VP8L')) && ((first[12]! >> 4) & 1) === 1;
    header = joined([
      ...[ascii('VP8X'), little32(10), Uint8Array.of(XMP_FLAG | (isClear ? ALPHA_FLAG : 0), 0, 0, 0)],
      Uint8Array.of(w, w >> 8, w >> 16, h, h >> 8, h >> 16),
    ]);
  }
  const xmp = joined([ascii('XMP '), little32(packet.length), packet, new Uint8Array(packet.length & 1)]);
  const body = joined([ascii('WEBP'), header, ...chunks, xmp]);
  return joined([ascii('RIFF'), little32(body.length), body]);
}

/**
 * Writes a packet into a copy of a file, replacing one that is there; pixels and everything else stay byte for byte.
 *
 * @param width, height - pixels of the stored (not yet upright) picture; only a plain WebP needs them
 * @returns undefined where the file is not what its type says, or the packet is too long for it
 */
export function withXmp(
  bytes: Uint8Array,
  type: TakesXmp,
  xmp: string,
  width: number,
  height: number,
): Uint8Array | undefined {
  const packet = new TextEncoder().encode(xmp);
  if (type === 'image/jpeg') return intoJpeg(bytes, packet);
  if (type === 'image/png') return intoPng(bytes, packet);
  return intoWebp(bytes, packet, width, height);
}

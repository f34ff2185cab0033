/** What intake accepts. The browser says so before it sends anything; the server decides. */
export const INTAKE_LIMITS = {
  /** One file; a 24-MP JPEG has about 12 MB, a 16-bit PNG of that size about 100 MB. */
  bytes: 128 * 1024 * 1024,
  /** Width × height: a blueprint of 12,000 × 8,000 passes, a decompression bomb does not. */
  pixels: 120_000_000,
  /** Files of one request. */
  files: 100,
} as const;

export const INTAKE_TYPES = ['image/jpeg', 'image/png', 'image/webp'] as const;
export type IntakeType = (typeof INTAKE_TYPES)[number];

export type RefusalCode =
  | 'empty'
  | 'too-many-bytes'
  | 'too-many-pixels'
  | 'unknown-kind'
  | 'damaged'
  | 'too-many-files';

/** Why a file was not taken, in words for the person who brought it. */
export const REFUSALS: Readonly<Record<RefusalCode, string>> = {
  empty: 'The file is empty.',
  'too-many-bytes': `The file is larger than ${INTAKE_LIMITS.bytes / 1024 / 1024} MB.`,
  'too-many-pixels': `The picture has more than ${INTAKE_LIMITS.pixels / 1_000_000} million pixels.`,
  'unknown-kind': 'This is not a JPEG, PNG or WebP picture.',
  damaged: 'The picture cannot be read: the file is damaged or incomplete.',
  'too-many-files': `More than ${INTAKE_LIMITS.files} files came at once.`,
};

/**
 * The kind of picture that bytes begin with, whatever the file is called; `undefined` for anything not taken in.
 * Signatures: JPEG ISO/IEC 10918-1 B.1.1.3, PNG (W3C, third edition) 5.2, WebP RFC 9649 2.4.
 *
 * @param head - at least the first 12 bytes of the file
 */
export function kindOfBytes(head: Uint8Array): IntakeType | undefined {
  const startsWith = (signature: readonly number[], offset = 0) =>
    signature.every((byte, index) => head[offset + index] === byte);
  if (startsWith([0xff, 0xd8, 0xff])) return 'image/jpeg';
  if (startsWith([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])) return 'image/png';
  if (startsWith([0x52, 0x49, 0x46, 0x46]) && startsWith([0x57, 0x45, 0x42, 0x50], 8)) return 'image/webp';
  return undefined;
}

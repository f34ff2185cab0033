const CRC_TABLE = Uint32Array.from({ length: 256 }, (_, at) => {
  let value = at;
  for (let bit = 0; bit < 8; bit += 1) value = value & 1 ? 0xed_b8_83_20 ^ (value >>> 1) : value >>> 1;
  return value;
});

/** CRC-32. Source: ISO/IEC 13239, as in PNG (W3C, third edition), annex D. @param before - of what came before */
export function crc32(bytes: Uint8Array, before = 0): number {
  let crc = ~before;
  for (const byte of bytes) crc = CRC_TABLE[(crc ^ byte) & 255]! ^ (crc >>> 8);
  return ~crc >>> 0;
}

import { crc32, deflateSync } from 'node:zlib';

/** Behind the signature and the header of a PNG. */
const BODY = 8 + 25;

/** A PNG whose levels are those of a profile: put in, nothing converted. Source: PNG (W3C, third edition), 11.3.2.3. */
export function withProfile(png: Buffer, profile: Uint8Array): Buffer {
  const body = Buffer.concat([Buffer.from('iCCPown\0\0', 'latin1'), deflateSync(profile)]);
  const [length, check] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(body.length - 4);
  check.writeUInt32BE(crc32(body));
  return Buffer.concat([png.subarray(0, BODY), length, body, check, png.subarray(BODY)]);
}

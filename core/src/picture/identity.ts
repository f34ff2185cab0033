import { v5 } from 'uuid';

/**
 * Stands for an address of the web: UUID v5 (RFC 9562) in the namespace of addresses.
 */
export const addressIdOf = (address: string): string => v5(address, v5.URL);

/**
 * A picture's id: UUID v5 (RFC 9562) of the SHA-256 of its bytes in the namespace of its owner, so that the client knows
 * it before anything is sent and the same bytes are the same picture.
 *
 * @param ownerId - UUID
 * @param sha256Hex - 64 lower-case hexadecimal digits
 */
export function pictureIdOf(ownerId: string, sha256Hex: string): string {
  if (!/^[0-9a-f]{64}$/.test(sha256Hex)) throw new RangeError(`not a SHA-256 in hexadecimal: ${sha256Hex}`);
  return v5(sha256Hex, ownerId);
}

/** An id for something that belongs to another thing: the same for the same name (UUID v5, RFC 9562). @param owner - UUID */
export const idWithin = (owner: string, name: string): string => v5(name, owner);

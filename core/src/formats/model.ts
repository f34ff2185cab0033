const MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;

export type ModelTrouble = 'damaged' | 'needs-other-files';

interface GltfReferences {
  readonly asset?: { readonly version?: unknown };
  readonly buffers?: readonly { readonly uri?: unknown }[];
  readonly images?: readonly { readonly uri?: unknown }[];
}

/**
 * Looks whether a binary glTF holds together and needs no other file: header, lengths, the JSON chunk, its version, and
 * where buffers and pictures lie. Whether its geometry is right shows when it is drawn.
 * Source: glTF 2.0, 4.4 (GLB); 3.6.1.1 (a buffer without `uri` is the binary chunk).
 */
export function troubleOfModel(bytes: Uint8Array): ModelTrouble | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20 || view.getUint32(0, true) !== MAGIC || view.getUint32(4, true) !== 2)
    return 'damaged';
  const length = view.getUint32(12, true);
  if (view.getUint32(8, true) > bytes.length || view.getUint32(16, true) !== JSON_CHUNK) return 'damaged';
  if (20 + length > bytes.length) return 'damaged';
  let described: GltfReferences;
  try {
    described = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length))) as GltfReferences;
  } catch {
    return 'damaged';
  }
  if (typeof described !== 'object' || described === null || described.asset?.version !== '2.0')
    return 'damaged';
  const isElsewhere = ({ uri }: { readonly uri?: unknown }) =>
    uri !== undefined && !(typeof uri === 'string' && uri.startsWith('data:'));
  const parts = [described.buffers, described.images];
  if (parts.some((list) => list !== undefined && !Array.isArray(list))) return 'damaged';
  return parts.some((list) => list?.some(isElsewhere)) ? 'needs-other-files' : undefined;
}

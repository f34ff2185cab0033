import type { ModelLook, ModelTrouble } from './look.ts';

const MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BIN_CHUNK = 0x004e4942;

/** What a file may require beside the core of glTF: all that alters surfaces, and nothing that packs them. */
const READ_EXTENSIONS =
  /^(?:KHR_(?:materials_\w+|mesh_quantization|texture_transform|lights_punctual)|EXT_texture_(?:webp|avif)|EXT_mesh_gpu_instancing)$/;

/** Bytes of a component, and components of an element. Source: glTF 2.0, 3.6.2.2. */
const COMPONENT_BYTES: Readonly<Record<number, number>> = {
  ...{ 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 },
};
const COMPONENTS: Readonly<Record<string, number>> = {
  ...{ SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 },
};

type Listed = Readonly<Record<string, unknown>>;

/** The parts of a glTF that are looked at; each list may hold anything. */
export interface GltfDescription {
  readonly asset: Listed;
  readonly [list: string]: unknown;
}

export interface GlbParts {
  readonly described: GltfDescription;
  /** The binary chunk; empty where there is none. */
  readonly binary: Uint8Array;
}

/** Takes a binary glTF apart. Source: glTF 2.0, 4.4. @returns undefined where it does not hold together */
export function glbParts(bytes: Uint8Array): GlbParts | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20 || view.getUint32(0, true) !== MAGIC || view.getUint32(4, true) !== 2)
    return undefined;
  const length = view.getUint32(12, true);
  if (view.getUint32(8, true) > bytes.length || view.getUint32(16, true) !== JSON_CHUNK) return undefined;
  const end = 20 + length;
  if (end > bytes.length) return undefined;
  let described: unknown;
  try {
    described = JSON.parse(new TextDecoder().decode(bytes.subarray(20, end)));
  } catch {
    return undefined;
  }
  if (typeof described !== 'object' || described === null) return undefined;
  const { asset } = described as { asset?: { version?: unknown } };
  if (asset?.version !== '2.0') return undefined;
  const hasBinary = end + 8 <= bytes.length && view.getUint32(end + 4, true) === BIN_CHUNK;
  const binary = hasBinary ? bytes.subarray(end + 8, end + 8 + view.getUint32(end, true)) : new Uint8Array();
  return { described: described as GltfDescription, binary };
}

class Broken extends Error {}

const whole = (value: unknown, otherwise?: number): number => {
  const number = value ?? otherwise;
  if (typeof number !== 'number' || !Number.isInteger(number) || number < 0) throw new Broken();
  return number;
};

/** @throws Broken for what is no list of things */
function listOf(described: GltfDescription, name: string): readonly Listed[] {
  const list = described[name] ?? [];
  if (!Array.isArray(list) || list.some((one) => typeof one !== 'object' || one === null)) throw new Broken();
  return list as readonly Listed[];
}

const at = (list: readonly Listed[], index: unknown): Listed => {
  const one = list[whole(index)];
  if (!one) throw new Broken();
  return one;
};

const isElsewhere = ({ uri }: Listed): boolean =>
  uri !== undefined && !(typeof uri === 'string' && uri.startsWith('data:'));

/** How many there are of what an accessor names, all of it inside the bytes that it points to. */
function countOf(described: GltfDescription, { binary }: GlbParts, index: unknown): number {
  const accessor = at(listOf(described, 'accessors'), index);
  const count = whole(accessor.count);
  if (accessor.bufferView === undefined) return count;
  const view = at(listOf(described, 'bufferViews'), accessor.bufferView);
  const buffer = at(listOf(described, 'buffers'), view.buffer);
  const element = COMPONENT_BYTES[whole(accessor.componentType)]! * COMPONENTS[String(accessor.type)]!;
  if (!(element > 0)) throw new Broken();
  const stride = whole(view.byteStride, element);
  const needed = whole(accessor.byteOffset, 0) + (count === 0 ? 0 : stride * (count - 1) + element);
  const length = whole(view.byteLength);
  if (needed > length) throw new Broken();
  if (whole(view.byteOffset, 0) + length > whole(buffer.byteLength)) throw new Broken();
  if (buffer.uri === undefined && whole(buffer.byteLength) > binary.length) throw new Broken();
  return count;
}

/** Triangles by how corners are joined. Source: glTF 2.0, 5.24.4. */
const trianglesOf = (mode: number, corners: number): number =>
  mode === 4 ? Math.floor(corners / 3) : mode === 5 || mode === 6 ? Math.max(0, corners - 2) : 0;

/** Nodes are trees: one that hangs below itself, or in two places, would be gone through for ever. Source: glTF 2.0, 3.5.2. */
function checkTrees(nodes: readonly Listed[]): void {
  const above = new Array<number>(nodes.length).fill(-1);
  for (const [index, { children = [] }] of nodes.entries()) {
    if (!Array.isArray(children)) throw new Broken();
    for (const child of children) {
      if (above[whole(child)] !== -1) throw new Broken();
      above[whole(child)] = index;
    }
  }
  const isRooted = new Uint8Array(nodes.length);
  for (const start of nodes.keys()) {
    const path: number[] = [];
    let node = start;
    while (node >= 0 && !isRooted[node]) {
      if (path.length > nodes.length) throw new Broken();
      path.push(node);
      node = above[node]!;
    }
    for (const one of path) isRooted[one] = 1;
  }
}

/**
 * Looks whether a binary glTF holds together, needs no other file and nothing that unpacks it, and how many triangles it
 * has: header, lengths, references, the tree of its nodes. Source: glTF 2.0.
 */
export function lookAtGlb(bytes: Uint8Array): ModelLook | ModelTrouble {
  const parts = glbParts(bytes);
  if (!parts) return 'damaged';
  const { described } = parts;
  try {
    if ([...listOf(described, 'buffers'), ...listOf(described, 'images')].some(isElsewhere))
      return 'needs-other-files';
    const required = described.extensionsRequired ?? [];
    if (!Array.isArray(required)) return 'damaged';
    if (required.some((name) => !READ_EXTENSIONS.test(String(name)))) return 'packed';
    const nodes = listOf(described, 'nodes');
    checkTrees(nodes);
    const meshes = listOf(described, 'meshes').map((mesh) => {
      let triangles = 0;
      for (const primitive of listOf(mesh as GltfDescription, 'primitives')) {
        const attributes = (primitive.attributes ?? {}) as Listed;
        const positions = countOf(described, parts, attributes.POSITION);
        const corners =
          primitive.indices === undefined ? positions : countOf(described, parts, primitive.indices);
        triangles += trianglesOf(whole(primitive.mode, 4), corners);
      }
      return triangles;
    });
    const triangles = nodes.reduce(
      (sum, { mesh }) => sum + (mesh === undefined ? 0 : (meshes[whole(mesh)] ?? 0)),
      0,
    );
    return triangles > 0 ? { triangles } : 'no-form';
  } catch {
    return 'damaged';
  }
}

import {
  type GlbParts,
  glbParts,
  MODEL_LIMITS,
  type ModelType,
  type ObjArchive,
  type ObjMaterial,
  Outermost,
  readObjArchive,
  type Spot,
  surfaceOfArchive,
} from '@miradero/core/model';
import { kindOfBytes, shapeOfBytes } from '@miradero/core/picture';
import {
  type BufferGeometry,
  Color,
  DoubleSide,
  Group,
  type Material,
  Mesh,
  MeshStandardMaterial,
  type Object3D,
  RepeatWrapping,
  SRGBColorSpace,
  Texture,
  Vector3,
} from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { OBJLoader } from 'three/addons/loaders/OBJLoader.js';
import { STLLoader } from 'three/addons/loaders/STLLoader.js';
import type { ReadModel } from '../messages.ts';
import { Coarser, trianglesIn } from './coarser.ts';

/** Said to the person; anything else that is thrown is told as *cannot be read*. */
export class ModelError extends Error {}

const TROUBLES = {
  damaged: 'The model cannot be read: its file is damaged or incomplete.',
  'no-form': 'There is no surface in the model: nothing of it could be seen.',
} as const;

export interface LoadedModel extends ReadModel {
  readonly object: Object3D;
}

/** Bytes of a part of a file that was written into it as text; as many as there are where it was cut off. */
function bytesOfDataUri(uri: string): Uint8Array<ArrayBuffer> {
  const [, isBase64, data = ''] = /^data:[^,]*?(;base64)?,(.*)$/s.exec(uri) ?? [];
  const text = isBase64 ? atob(data.slice(0, data.length - (data.length % 4))) : decodeURIComponent(data);
  return Uint8Array.from(text, (letter) => letter.charCodeAt(0));
}

/** The same as an address that may be asked for here. */
const asBlobAddress = (uri: string): string => URL.createObjectURL(new Blob([bytesOfDataUri(uri)]));

/** Whether a picture of a surface has more pixels than can be had in memory. */
function isTooLarge(bytes: Uint8Array): boolean {
  const type = kindOfBytes(bytes.subarray(0, 4096));
  const shape = type && shapeOfBytes(bytes, type);
  return shape !== undefined && shape.width * shape.height > MODEL_LIMITS.texturePixels;
}

/** One white pixel: leaves a colour as it is. */
const WHITE = 'data:image/gif;base64,R0lGODlhAQABAIAAAP///wAAACwAAAAAAQABAAACAkQBADs=';

interface GltfImage {
  uri?: string;
  bufferView?: number;
  readonly name?: string;
}

/** Bytes of a picture inside a binary glTF, as far as its head goes. */
function headOf({ uri, bufferView }: GltfImage, { described, binary }: GlbParts): Uint8Array {
  if (uri !== undefined) return bytesOfDataUri(uri.slice(0, 300_000));
  const views = described.bufferViews as { byteOffset?: number; byteLength: number }[] | undefined;
  const { byteOffset = 0, byteLength } = views?.[bufferView ?? -1] ?? { byteLength: 0 };
  return binary.subarray(byteOffset, byteOffset + byteLength);
}

async function readGlb(bytes: ArrayBuffer): Promise<{ object: Object3D; missing: readonly string[] }> {
  const parts = glbParts(new Uint8Array(bytes));
  const missing: string[] = [];
  const addresses: string[] = [];
  const loader = new GLTFLoader();
  loader.register((parser) => {
    const { buffers = [], images = [] } = parser.json as { buffers?: GltfImage[]; images?: GltfImage[] };
    for (const image of images)
      if (parts && isTooLarge(headOf(image, parts))) {
        missing.push(image.name || 'a picture that is too large');
        image.uri = WHITE;
        delete image.bufferView;
      }
    for (const part of [...buffers, ...images])
      if (part.uri?.startsWith('data:')) {
        part.uri = asBlobAddress(part.uri);
        addresses.push(part.uri);
      }
    return { name: 'miradero-parts-as-text' };
  });
  try {
    const { scene, scenes } = await loader.parseAsync(bytes, '');
    return { object: scene ?? scenes[0] ?? new Group(), missing };
  } finally {
    for (const address of addresses) URL.revokeObjectURL(address);
  }
}

function readStl(bytes: ArrayBuffer): Object3D {
  const geometry = new STLLoader().parse(bytes) as BufferGeometry & { hasColors?: boolean };
  // Many programs leave the normals of triangles empty; the form says them.
  geometry.deleteAttribute('normal');
  const material = new MeshStandardMaterial({
    roughness: 1,
    metalness: 0,
    vertexColors: !!geometry.hasColors,
  });
  return new Mesh(geometry, material);
}

/** Pictures of a surface, by file name in small letters; what cannot be read is left out. */
async function texturesOf({ others }: ObjArchive, materials: readonly ObjMaterial[]) {
  const textures = new Map<string, Texture>();
  for (const { picture } of materials) {
    const name = picture?.toLowerCase();
    const bytes = name === undefined ? undefined : others.get(name);
    if (name === undefined || !bytes || textures.has(name)) continue;
    if (isTooLarge(bytes)) continue;
    try {
      const image = await createImageBitmap(new Blob([bytes as Uint8Array<ArrayBuffer>]), {
        imageOrientation: 'flipY',
      });
      const texture = new Texture(image);
      texture.flipY = false;
      texture.wrapS = RepeatWrapping;
      texture.wrapT = RepeatWrapping;
      texture.colorSpace = SRGBColorSpace;
      texture.needsUpdate = true;
      textures.set(name, texture);
    } catch {
      // The surface stays in its colour.
    }
  }
  return textures;
}

/** Gives an OBJ the materials that are named in it. */
async function withSurface(object: Object3D, archive: ObjArchive): Promise<readonly string[]> {
  const { materials, missing } = surfaceOfArchive(archive);
  const textures = await texturesOf(archive, materials);
  const made = new Map(
    materials.map(({ name, colour, opacity, picture }) => {
      const map = picture ? (textures.get(picture.toLowerCase()) ?? null) : null;
      const material = new MeshStandardMaterial({
        name,
        map,
        opacity,
        transparent: opacity < 1,
        roughness: 1,
        metalness: 0,
      });
      // A picture is seen as it is: many programs write a colour beside it that would darken it.
      if (!map) material.color = new Color().setRGB(...colour, SRGBColorSpace);
      return [name, material] as const;
    }),
  );
  object.traverse((one) => {
    if (!(one instanceof Mesh)) return;
    const of = (material: Material): Material => made.get(material.name) ?? material;
    one.material = Array.isArray(one.material) ? one.material.map(of) : of(one.material as Material);
  });
  return [
    ...missing,
    ...materials.flatMap(({ picture }) =>
      picture && archive.others.has(picture.toLowerCase()) && !textures.has(picture.toLowerCase())
        ? [picture]
        : [],
    ),
  ];
}

async function readObj(archive: ObjArchive): Promise<{ object: Object3D; missing: readonly string[] }> {
  const object = new OBJLoader().parse(new TextDecoder().decode(archive.obj));
  return { object, missing: await withSurface(object, archive) };
}

async function objectOf(
  bytes: ArrayBuffer,
  type: ModelType,
): Promise<{ object: Object3D; missing: readonly string[] }> {
  if (type === 'model/gltf-binary') return readGlb(bytes);
  if (type === 'model/stl') return { object: readStl(bytes), missing: [] };
  if (type === 'model/obj') return readObj({ obj: new Uint8Array(bytes), others: new Map() });
  const archive = readObjArchive(new Uint8Array(bytes));
  if (typeof archive === 'string') throw new ModelError(TROUBLES.damaged);
  return readObj(archive);
}

/** What has more triangles than can be turned at leisure is made coarser. @returns how many are left */
function makeCoarser(meshes: readonly Mesh[], triangles: number): number {
  const coarser = new Coarser(MODEL_LIMITS.shown / triangles);
  for (const mesh of meshes) mesh.geometry = coarser.of(mesh.geometry);
  return meshes.reduce((sum, { geometry }) => sum + trianglesIn(geometry), 0);
}

const isColoured = (material: MeshStandardMaterial): boolean => {
  const { map, vertexColors, color } = material;
  return !!map || vertexColors || (color !== undefined && !(color.r === 1 && color.g === 1 && color.b === 1));
};

/** Of so many corners at most the outermost are looked for; more hardly alter them. */
const MOST_CORNERS = 400_000;

function outermostOf(meshes: readonly Mesh[]): Spot[] {
  const corners = meshes.reduce((sum, { geometry }) => sum + (geometry.attributes.position?.count ?? 0), 0);
  const step = Math.max(1, Math.floor(corners / MOST_CORNERS));
  const outermost = new Outermost();
  const at = new Vector3();
  for (const mesh of meshes)
    for (let corner = 0; corner < mesh.geometry.attributes.position!.count; corner += step) {
      mesh.getVertexPosition(corner, at).applyMatrix4(mesh.matrixWorld);
      outermost.add(at.x, at.y, at.z);
    }
  return outermost.points;
}

/** Reads a model from its bytes. @throws ModelError in words */
export async function readModel(bytes: ArrayBuffer, type: ModelType): Promise<LoadedModel> {
  const { object, missing } = await objectOf(bytes, type).catch((error: unknown) => {
    throw error instanceof ModelError ? error : new ModelError(TROUBLES.damaged);
  });
  object.updateMatrixWorld(true);
  const meshes: Mesh[] = [];
  const others: Object3D[] = [];
  object.traverse((one) => {
    if (one instanceof Mesh && trianglesIn(one.geometry) > 0) meshes.push(one);
    else if ('isLine' in one || 'isPoints' in one || 'isLight' in one || 'isCamera' in one) others.push(one);
  });
  for (const one of others) one.removeFromParent();
  const triangles = meshes.reduce((sum, { geometry }) => sum + trianglesIn(geometry), 0);
  if (triangles === 0) throw new ModelError(TROUBLES['no-form']);
  const shown = triangles > MODEL_LIMITS.shown ? makeCoarser(meshes, triangles) : triangles;
  for (const mesh of meshes) {
    if (!mesh.geometry.attributes.normal) mesh.geometry.computeVertexNormals();
    for (const material of [mesh.material].flat()) material.side = DoubleSide;
  }
  const points = outermostOf(meshes);
  if (points.length < 3) throw new ModelError(TROUBLES.damaged);
  const hasSurface = meshes.some(({ material }) =>
    [material].flat().some((one) => isColoured(one as MeshStandardMaterial)),
  );
  return {
    ...{ object, points, triangles, shown, missing, hasSurface },
  };
}

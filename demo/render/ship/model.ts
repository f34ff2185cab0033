import { writeFile } from 'node:fs/promises';
import { Document, NodeIO } from '@gltf-transform/core';
import { Matrix4 } from 'three';
import type { Truth } from '../../truth/truth.ts';
import { type Mesh, MeshBuilder } from '../mesh.ts';
import { ferryParts } from '../models/ferry.ts';
import { FERRY } from '../models/ferry-sizes.ts';
import { Workshop } from '../models/parts.ts';
import { SURFACE, type SurfaceName } from '../surfaces.ts';
import { PICTURES, writeTruth } from './pictures.ts';

/** Materials of the model: colour (linear), metal and roughness, 0..1; patterns stay behind in the renderer. */
const PAINTS: Partial<
  Record<SurfaceName, readonly [r: number, g: number, b: number, metal: number, rough: number]>
> = {
  hull: [0.17, 0.27, 0.235, 0.1, 0.6],
  plank: [0.23, 0.17, 0.115, 0, 0.8],
  siding: [0.58, 0.49, 0.335, 0, 0.7],
  roof: [0.26, 0.15, 0.1, 0.3, 0.7],
  iron: [0.17, 0.085, 0.05, 0.4, 0.7],
  rope: [0.37, 0.28, 0.165, 0, 0.9],
  whitewash: [0.62, 0.61, 0.55, 0, 0.8],
  pane: [0.025, 0.032, 0.034, 0, 0.05],
  dark: [0.02, 0.02, 0.022, 0, 0.9],
  redLead: [0.36, 0.07, 0.035, 0, 0.6],
  tyre: [0.03, 0.03, 0.03, 0, 0.8],
  lampGlass: [1, 0.72, 0.4, 0, 0.2],
};

interface Piece {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  readonly indices: Uint16Array | Uint32Array;
}

/** The triangles of one material, corners that are the same written once. */
function pieceOf({ corners, normals, material }: Mesh, wanted: number): Piece | undefined {
  const known = new Map<string, number>();
  const positions: number[] = [];
  const turned: number[] = [];
  const indices: number[] = [];
  for (let triangle = 0; triangle < material.length; triangle += 1) {
    if (material[triangle] !== wanted) continue;
    for (let corner = triangle * 9; corner < triangle * 9 + 9; corner += 3) {
      const at = [...corners.subarray(corner, corner + 3)].map((value) => Math.round(value * 1e4) / 1e4);
      const length = Math.hypot(...normals.subarray(corner, corner + 3)) || 1;
      const normal = [...normals.subarray(corner, corner + 3)].map((value) =>
        Math.round((value / length) * 50),
      );
      const key = `${at.join()} ${normal.join()}`;
      let index = known.get(key);
      if (index === undefined) {
        index = positions.length / 3;
        known.set(key, index);
        positions.push(...at);
        turned.push(...[...normals.subarray(corner, corner + 3)].map((value) => value / length));
      }
      indices.push(index);
    }
  }
  if (indices.length === 0) return undefined;
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(turned),
    indices: (positions.length / 3 < 65_536 ? Uint16Array : Uint32Array).from(withoutFlat(indices)),
  };
}

/** Leaves out triangles of which two corners became one. */
function withoutFlat(indices: readonly number[]): number[] {
  const kept: number[] = [];
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [indices[at]!, indices[at + 1]!, indices[at + 2]!];
    if (a !== b && b !== c && c !== a) kept.push(a, b, c);
  }
  return kept;
}

/** The ferry as binary glTF: metres, y up, a node for every named part. */
export async function shipModel(): Promise<void> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Miradero demo';
  const buffer = document.createBuffer();
  const scene = document.createScene('The last chain ferry');
  const materials = new Map(
    Object.entries(PAINTS).map(([name, [r, g, b, metal, rough]]) => [
      SURFACE[name as SurfaceName],
      document
        .createMaterial(name)
        .setBaseColorFactor([r, g, b, 1])
        .setMetallicFactor(metal)
        .setRoughnessFactor(rough)
        .setDoubleSided(true),
    ]),
  );
  for (const [name, build] of ferryParts({})) {
    const shop = new Workshop(new MeshBuilder(), new Matrix4(), false);
    build(shop);
    const built = shop.mesh.build();
    const mesh = document.createMesh(name);
    for (const [surface, material] of materials) {
      const piece = pieceOf(built, surface);
      if (!piece) continue;
      const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array | Uint16Array | Uint32Array) =>
        document
          .createAccessor()
          .setType(type)
          .setArray(array as never)
          .setBuffer(buffer);
      mesh.addPrimitive(
        document
          .createPrimitive()
          .setAttribute('POSITION', accessor('VEC3', piece.positions))
          .setAttribute('NORMAL', accessor('VEC3', piece.normals))
          .setIndices(accessor('SCALAR', piece.indices))
          .setMaterial(material),
      );
    }
    scene.addChild(document.createNode(name).setMesh(mesh));
  }
  const file = 'ferry.glb';
  await writeFile(`${PICTURES}${file}`, await new NodeIO().writeBinary(document));
  await writeTruth({
    ...{ file, title: 'The last chain ferry, model', subject: 'the ferry', kind: 'model' },
    ...{ mediaType: 'model/gltf-binary', dimensionsM: { ...FERRY } },
  } as Truth);
}

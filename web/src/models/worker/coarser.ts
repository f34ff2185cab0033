import { thinned } from '@miradero/core/model';
import { BufferAttribute, BufferGeometry, type InterleavedBufferAttribute } from 'three';

export const trianglesIn = ({ index, attributes }: BufferGeometry): number =>
  Math.floor((index?.count ?? attributes.position?.count ?? 0) / 3);

/** A part is left so many triangles at least: a box. */
const LEAST_TRIANGLES = 12;

/** Values of an attribute at some corners. */
function valuesAt(attribute: BufferAttribute | InterleavedBufferAttribute, corners: readonly number[]) {
  const { itemSize } = attribute;
  const values = new Float32Array(corners.length * itemSize);
  for (let at = 0; at < corners.length; at += 1)
    for (let part = 0; part < itemSize; part += 1)
      values[at * itemSize + part] = attribute.getComponent(corners[at]!, part);
  return new BufferAttribute(values, itemSize);
}

/** Makes geometries coarser, all by the same share; one that several meshes have stays one. */
export class Coarser {
  readonly #share: number;
  readonly #made = new Map<BufferGeometry, BufferGeometry>();

  /** @param share - of the triangles that are left, 0..1 */
  constructor(share: number) {
    this.#share = share;
  }

  of(geometry: BufferGeometry): BufferGeometry {
    const known = this.#made.get(geometry) ?? this.#make(geometry);
    this.#made.set(geometry, known);
    return known;
  }

  #make(geometry: BufferGeometry): BufferGeometry {
    const { position } = geometry.attributes;
    const made = new BufferGeometry();
    if (!position) return made;
    const positions = new Float32Array(position.count * 3);
    for (let at = 0; at < position.count; at += 1)
      for (let axis = 0; axis < 3; axis += 1) positions[at * 3 + axis] = position.getComponent(at, axis);
    const all = geometry.index?.array ?? Uint32Array.from({ length: position.count }, (_, corner) => corner);
    const whole = { start: 0, count: all.length, materialIndex: 0 };
    // Each material's part for itself: what lies in its cells is of one surface.
    const groups = geometry.groups.length > 0 ? geometry.groups : [whole];
    const kept: number[] = [];
    const indices: number[] = [];
    for (const { start, count, materialIndex = 0 } of groups) {
      const part = all.slice(start, Math.min(all.length, start + count));
      const most = Math.max(LEAST_TRIANGLES, Math.floor((part.length / 3) * this.#share));
      const less = thinned({ positions, indices: part }, most);
      // A thread that is thinner than any cell would be gone: it stays as it is.
      const left = less.indices.length > 0 ? less : thinned({ positions, indices: part }, part.length);
      const first = kept.length;
      const begun = indices.length;
      // Only corners that a triangle has: those of other parts lie in the same cells.
      const numbers = new Map<number, number>();
      for (const corner of left.indices) {
        let number = numbers.get(corner);
        if (number === undefined) {
          number = first + numbers.size;
          numbers.set(corner, number);
          kept.push(left.kept[corner]!);
        }
        indices.push(number);
      }
      if (geometry.groups.length > 0) made.addGroup(begun, indices.length - begun, materialIndex);
    }
    for (const [name, attribute] of Object.entries(geometry.attributes))
      if (name !== 'normal') made.setAttribute(name, valuesAt(attribute, kept));
    made.setIndex(indices);
    made.computeVertexNormals();
    return made;
  }
}

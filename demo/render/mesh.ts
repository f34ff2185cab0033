import { type BufferGeometry, Matrix3, Matrix4, Vector3 } from 'three';

/** Floats that grow. */
class Floats {
  #held = new Float32Array(1 << 16);
  length = 0;
  push3(x: number, y: number, z: number): void {
    if (this.length + 3 > this.#held.length) {
      const larger = new Float32Array(this.#held.length * 2);
      larger.set(this.#held);
      this.#held = larger;
    }
    this.#held[this.length] = x;
    this.#held[this.length + 1] = y;
    this.#held[this.length + 2] = z;
    this.length += 3;
  }
  taken(): Float32Array {
    return this.#held.slice(0, this.length);
  }
}

/**
 * Triangles in world metres, y up. `corners`, `normals` and `rest` hold nine floats a triangle; `rest` is where a corner
 * lay before it was placed, so that grain and rust travel with a part. `part` names the placed part of a triangle;
 * `turns` holds the 3×3 rotation (row-major, rest to world) of each part and `seeds` a number 0..1 of each.
 */
export interface Mesh {
  readonly corners: Float32Array;
  readonly normals: Float32Array;
  readonly rest: Float32Array;
  readonly material: Uint8Array;
  readonly part: Uint32Array;
  readonly turns: Float32Array;
  readonly seeds: Float32Array;
}

export interface Placing {
  /** Without it the part's number decides. */
  readonly seed?: number;
  /** Where the rest frame begins: moves grain and stains. */
  readonly rest?: Vector3;
}

export class MeshBuilder {
  readonly #corners = new Floats();
  readonly #normals = new Floats();
  readonly #rest = new Floats();
  readonly #material: number[] = [];
  readonly #part: number[] = [];
  readonly #turns: number[] = [];
  readonly #seeds: number[] = [];

  get triangles(): number {
    return this.#material.length;
  }

  /** Adds a geometry of three.js with its normals, placed by `matrix`. */
  add(
    geometry: BufferGeometry,
    material: number,
    matrix: Matrix4 = new Matrix4(),
    { seed, rest = new Vector3() }: Placing = {},
  ): void {
    const plain = geometry.index ? geometry.toNonIndexed() : geometry;
    if (!plain.getAttribute('normal')) plain.computeVertexNormals();
    const positions = plain.getAttribute('position');
    const normals = plain.getAttribute('normal');
    const part = this.#seeds.length;
    this.#seeds.push(seed ?? (part * 0.61803398875) % 1);
    this.#pushTurn(matrix);
    const forNormals = new Matrix3().getNormalMatrix(matrix);
    const at = new Vector3();
    for (let index = 0; index < positions.count; index += 1) {
      at.fromBufferAttribute(positions, index);
      this.#rest.push3(at.x + rest.x, at.y + rest.y, at.z + rest.z);
      at.applyMatrix4(matrix);
      this.#corners.push3(at.x, at.y, at.z);
      at.fromBufferAttribute(normals, index).applyMatrix3(forNormals).normalize();
      this.#normals.push3(at.x, at.y, at.z);
    }
    for (let index = 0; index < positions.count / 3; index += 1) {
      this.#material.push(material);
      this.#part.push(part);
    }
  }

  #pushTurn(matrix: Matrix4): void {
    const columns = [new Vector3(), new Vector3(), new Vector3()] as const;
    matrix.extractBasis(...columns);
    for (const column of columns) column.normalize();
    const [a, b, c] = columns;
    this.#turns.push(a.x, b.x, c.x, a.y, b.y, c.y, a.z, b.z, c.z);
  }

  build(): Mesh {
    return {
      corners: this.#corners.taken(),
      normals: this.#normals.taken(),
      rest: this.#rest.taken(),
      material: Uint8Array.from(this.#material),
      part: Uint32Array.from(this.#part),
      turns: Float32Array.from(this.#turns),
      seeds: Float32Array.from(this.#seeds),
    };
  }
}

/** The matrix that puts something at `x y z` (metres), turned by Euler angles in degrees, order XYZ. */
export function placed(
  x: number,
  y: number,
  z: number,
  { turnDeg = [0, 0, 0], scale = [1, 1, 1] }: { turnDeg?: readonly number[]; scale?: readonly number[] } = {},
): Matrix4 {
  const [rx, ry, rz] = turnDeg.map((deg) => (deg * Math.PI) / 180) as [number, number, number];
  return new Matrix4()
    .makeTranslation(x, y, z)
    .multiply(new Matrix4().makeRotationX(rx))
    .multiply(new Matrix4().makeRotationY(ry))
    .multiply(new Matrix4().makeRotationZ(rz))
    .multiply(new Matrix4().makeScale(scale[0]!, scale[1]!, scale[2]!));
}

import {
  BufferGeometry,
  CatmullRomCurve3,
  type Curve,
  CylinderGeometry,
  Float32BufferAttribute,
  LatheGeometry,
  Matrix4,
  Quaternion,
  SphereGeometry,
  TorusGeometry,
  TubeGeometry,
  Vector2,
  Vector3,
} from 'three';
import { RoundedBoxGeometry } from 'three/addons/geometries/RoundedBoxGeometry.js';
import type { Point } from '../camera.ts';
import { type MeshBuilder, placed } from '../mesh.ts';
import { SURFACE, type SurfaceName } from '../surfaces.ts';

export const v = ([x, y, z]: Point): Vector3 => new Vector3(x, y, z);

/** Builds in a frame of its own: everything added is moved by `frame`. */
export class Workshop {
  readonly mesh: MeshBuilder;
  readonly frame: Matrix4;
  /** Without fine detail, ropes, links and balls have a third of their triangles. */
  readonly isFine: boolean;

  constructor(mesh: MeshBuilder, frame: Matrix4 = new Matrix4(), isFine = true) {
    this.mesh = mesh;
    this.frame = frame;
    this.isFine = isFine;
  }

  within(matrix: Matrix4): Workshop {
    return new Workshop(this.mesh, this.frame.clone().multiply(matrix), this.isFine);
  }

  add(geometry: BufferGeometry, surface: SurfaceName, matrix: Matrix4 = new Matrix4(), seed?: number): void {
    const placing = seed === undefined ? {} : { seed };
    this.mesh.add(geometry, SURFACE[surface], this.frame.clone().multiply(matrix), placing);
  }

  /** A box with broken edges; `size` and `centre` in metres. */
  box(surface: SurfaceName, centre: Point, size: Point, turnDeg: Point = [0, 0, 0], edge = 0.008): void {
    const radius = Math.min(edge, Math.min(...size) * 0.45);
    const geometry = new RoundedBoxGeometry(size[0], size[1], size[2], 1, radius);
    this.add(geometry, surface, placed(...centre, { turnDeg }));
  }

  /** A round bar between two points. */
  bar(surface: SurfaceName, from: Point, to: Point, radius: number, radiusTo = radius, sides = 14): void {
    const along = v(to).sub(v(from));
    const geometry = new CylinderGeometry(radiusTo, radius, along.length(), sides);
    const turn = new Quaternion().setFromUnitVectors(new Vector3(0, 1, 0), along.clone().normalize());
    const middle = v(from).add(v(to)).multiplyScalar(0.5);
    this.add(geometry, surface, new Matrix4().compose(middle, turn, new Vector3(1, 1, 1)));
  }

  ball(surface: SurfaceName, at: Point, radius: number, detail = 12): void {
    const rows = this.isFine ? detail : Math.max(3, Math.round(detail / 2));
    this.add(new SphereGeometry(radius, rows * 2, rows), surface, placed(...at));
  }

  /** A ring about z. */
  ring(
    surface: SurfaceName,
    at: Point,
    radius: number,
    tube: number,
    turnDeg: Point = [0, 0, 0],
    sides = 48,
  ): void {
    this.add(new TorusGeometry(radius, tube, 12, sides), surface, placed(...at, { turnDeg }));
  }

  /** A turned form about y; `outline` holds pairs of radius and height. */
  turned(surface: SurfaceName, at: Point, outline: readonly (readonly [number, number])[], sides = 40): void {
    const points = outline.map(([radius, height]) => new Vector2(Math.max(radius, 1e-4), height));
    this.add(creased(new LatheGeometry(points, sides)), surface, placed(...at));
  }

  /** A turned form about z. */
  turnedAboutZ(surface: SurfaceName, outline: readonly (readonly [number, number])[], sides = 96): void {
    const points = outline.map(([radius, height]) => new Vector2(radius, height));
    this.add(creased(new LatheGeometry(points, sides)), surface, placed(0, 0, 0, { turnDeg: [90, 0, 0] }));
  }

  tube(surface: SurfaceName, curve: Curve<Vector3>, radius: number, steps: number, sides = 8): void {
    this.add(new TubeGeometry(curve, steps, radius, sides), surface);
  }

  /** A laid rope of three strands along a curve. */
  rope(curve: Curve<Vector3>, radius: number, detail = 1): void {
    const length = curve.getLength();
    const lay = radius * 7.5;
    const steps = Math.max(8, Math.ceil((length / lay) * (this.isFine ? 7 * detail : 4)));
    const sides = this.isFine ? (detail > 1 ? 10 : 6) : 4;
    for (let strand = 0; strand < 3; strand += 1) {
      const geometry = strandOf(curve, radius, (strand / 3) * 2 * Math.PI, length / lay, steps, sides);
      this.add(geometry, 'rope', new Matrix4(), strand * 0.31);
    }
  }

  /** A chain along a curve: links of `pitch` metres, every other one turned by a quarter; `offset` in links moves it along. */
  chain(curve: Curve<Vector3>, pitch: number, offset = 0, sides = 14): void {
    const length = curve.getLength();
    const wire = pitch * 0.14;
    const link = new TorusGeometry(
      pitch * 0.42,
      wire,
      this.isFine ? 7 : 4,
      this.isFine ? sides : 8,
    ).applyMatrix4(new Matrix4().makeScale(1.52, 1, 1));
    link.computeVertexNormals();
    const count = Math.floor(length / pitch);
    for (let index = 0; index < count; index += 1) {
      const along = ((index + 0.5 + (offset % 1)) * pitch) / length;
      if (along >= 1) continue;
      const at = curve.getPointAt(along);
      const tangent = curve.getTangentAt(along);
      const turn = new Quaternion().setFromUnitVectors(new Vector3(1, 0, 0), tangent);
      const roll = new Quaternion().setFromAxisAngle(
        new Vector3(1, 0, 0),
        (index + Math.floor(offset)) % 2 === 0 ? 0 : Math.PI / 2,
      );
      this.add(
        link,
        'iron',
        new Matrix4().compose(at, turn.multiply(roll), new Vector3(1, 1, 1)),
        (index * 0.37) % 1,
      );
    }
  }
}

export function curveOf(points: readonly Point[], closed = false): CatmullRomCurve3 {
  return new CatmullRomCurve3(points.map(v), closed, 'centripetal');
}

/** A rope's hang between two points with `sag` metres in its middle. */
export function hanging(from: Point, to: Point, sag: number, steps = 8): CatmullRomCurve3 {
  const points: Point[] = [];
  for (let step = 0; step <= steps; step += 1) {
    const t = step / steps;
    const [x, y, z] = from.map((at, axis) => at + (to[axis]! - at) * t) as unknown as [
      number,
      number,
      number,
    ];
    points.push([x, y - 4 * sag * t * (1 - t), z]);
  }
  return curveOf(points);
}

/** One strand that winds about a curve. */
function strandOf(
  curve: Curve<Vector3>,
  radius: number,
  phase: number,
  turns: number,
  steps: number,
  sides: number,
): BufferGeometry {
  const frames = curve.computeFrenetFrames(steps, false);
  const own = radius * 0.56;
  const positions: number[] = [];
  const normals: number[] = [];
  const centres: Vector3[] = [];
  for (let step = 0; step <= steps; step += 1) {
    const angle = phase + turns * 2 * Math.PI * (step / steps);
    const away = frames.normals[step]!.clone()
      .multiplyScalar(Math.cos(angle))
      .addScaledVector(frames.binormals[step]!, Math.sin(angle));
    centres.push(curve.getPointAt(step / steps).addScaledVector(away, radius * 0.5));
  }
  const rings = centres.map((centre, step) => {
    const ahead = centres[Math.min(step + 1, steps)]!.clone().sub(centres[Math.max(step - 1, 0)]!);
    ahead.normalize();
    const side = new Vector3().crossVectors(ahead, frames.normals[step]!).normalize();
    const up = new Vector3().crossVectors(side, ahead);
    return Array.from({ length: sides }, (_, index) => {
      const angle = (index / sides) * 2 * Math.PI;
      const normal = side.clone().multiplyScalar(Math.cos(angle)).addScaledVector(up, Math.sin(angle));
      return { normal, at: centre.clone().addScaledVector(normal, own) };
    });
  });
  const push = (corner: { normal: Vector3; at: Vector3 }) => {
    positions.push(corner.at.x, corner.at.y, corner.at.z);
    normals.push(corner.normal.x, corner.normal.y, corner.normal.z);
  };
  for (let step = 0; step < steps; step += 1) {
    for (let index = 0; index < sides; index += 1) {
      const a = rings[step]![index]!;
      const b = rings[step]![(index + 1) % sides]!;
      const c = rings[step + 1]![index]!;
      const d = rings[step + 1]![(index + 1) % sides]!;
      for (const corner of [a, b, c, b, d, c]) push(corner);
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new Float32BufferAttribute(positions, 3));
  geometry.setAttribute('normal', new Float32BufferAttribute(normals, 3));
  return geometry;
}

/** The geometry with its normals kept smooth only where faces meet at less than `limitDeg`. */
export function creased(geometry: BufferGeometry, limitDeg = 32): BufferGeometry {
  const plain = geometry.index ? geometry.toNonIndexed() : geometry;
  const positions = plain.getAttribute('position');
  const faces: Vector3[] = [];
  const meeting = new Map<string, number[]>();
  const corner = Array.from({ length: 3 }, () => new Vector3());
  const keyOf = (at: Vector3) =>
    `${Math.round(at.x * 1e5)},${Math.round(at.y * 1e5)},${Math.round(at.z * 1e5)}`;
  const keys: string[] = [];
  for (let face = 0; face < positions.count / 3; face += 1) {
    for (let index = 0; index < 3; index += 1)
      corner[index]!.fromBufferAttribute(positions, face * 3 + index);
    const normal = corner[1]!.clone().sub(corner[0]!).cross(corner[2]!.clone().sub(corner[0]!));
    faces.push(normal);
    for (const at of corner) {
      const key = keyOf(at);
      keys.push(key);
      const known = meeting.get(key);
      if (known) known.push(face);
      else meeting.set(key, [face]);
    }
  }
  const limit = Math.cos((limitDeg * Math.PI) / 180);
  const normals: number[] = [];
  keys.forEach((key, index) => {
    const own = faces[Math.floor(index / 3)]!;
    const unit = own.clone().normalize();
    const sum = new Vector3();
    for (const face of meeting.get(key)!) {
      const other = faces[face]!;
      if (other.lengthSq() > 0 && unit.dot(other.clone().normalize()) >= limit) sum.add(other);
    }
    if (sum.lengthSq() === 0) sum.copy(unit);
    sum.normalize();
    normals.push(sum.x, sum.y, sum.z);
  });
  plain.setAttribute('normal', new Float32BufferAttribute(normals, 3));
  return plain;
}

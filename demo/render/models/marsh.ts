import { BufferGeometry, Float32BufferAttribute, PlaneGeometry, Vector3 } from 'three';
import { placed } from '../mesh.ts';
import { fbm, hash01, noise } from '../noise.ts';
import type { Workshop } from './parts.ts';

/** Where reeds stand: density 0..1 at a place, metres. */
export type Density = (x: number, z: number) => number;

const VARIANTS = 9;

/** A reed of about 2.6 m: stalk, leaves and plume, its foot at the origin. */
function reedGeometry(variant: number): { stalk: BufferGeometry; plume: BufferGeometry } {
  const height = 2 + 1.1 * hash01(variant, 1);
  const leanX = 0.5 * (hash01(variant, 2) - 0.35);
  const leanZ = 0.5 * (hash01(variant, 3) - 0.5);
  const at = (t: number) => new Vector3(leanX * t * t, height * t, leanZ * t * t);
  const stalk: number[] = [];
  const quad = (a: Vector3, b: Vector3, c: Vector3, d: Vector3, into: number[]) => {
    for (const p of [a, b, c, b, d, c]) into.push(p.x, p.y, p.z);
  };
  const rings = [0, 0.55, 1].map((t) =>
    [0, 1, 2].map((side) => {
      const angle = (side / 3) * 2 * Math.PI;
      const radius = 0.014 * (1 - 0.6 * t);
      return at(t).add(new Vector3(Math.cos(angle) * radius, 0, Math.sin(angle) * radius));
    }),
  );
  for (let ring = 0; ring < 2; ring += 1) {
    for (let side = 0; side < 3; side += 1) {
      const next = (side + 1) % 3;
      quad(rings[ring]![side]!, rings[ring]![next]!, rings[ring + 1]![side]!, rings[ring + 1]![next]!, stalk);
    }
  }
  for (let leaf = 0; leaf < 4; leaf += 1) {
    const from = 0.22 + 0.17 * leaf + 0.08 * hash01(variant, leaf + 10);
    const angle = hash01(variant, leaf + 20) * 2 * Math.PI;
    const length = 0.5 + 0.4 * hash01(variant, leaf + 30);
    const out = new Vector3(Math.cos(angle), 0, Math.sin(angle));
    const side = new Vector3(-out.z, 0, out.x);
    const points = [0, 0.5, 1].map((t) => {
      const rise = (0.55 * t - 0.75 * t * t) * length;
      return at(from)
        .addScaledVector(out, t * length * 0.72)
        .add(new Vector3(0, rise, 0));
    });
    for (let piece = 0; piece < 2; piece += 1) {
      const near = 0.024 * (1 - piece / 2.3);
      const far = 0.024 * (1 - (piece + 1) / 2.3);
      const a = points[piece]!.clone().addScaledVector(side, near);
      const b = points[piece]!.clone().addScaledVector(side, -near);
      const c = points[piece + 1]!.clone().addScaledVector(side, far);
      const d = points[piece + 1]!.clone().addScaledVector(side, -far);
      quad(a, b, c, d, stalk);
    }
  }
  const plume: number[] = [];
  for (let tuft = 0; tuft < 5; tuft += 1) {
    const t = 0.86 + 0.035 * tuft;
    const angle = hash01(variant, tuft + 40) * 2 * Math.PI;
    const out = new Vector3(Math.cos(angle), -0.5, Math.sin(angle)).multiplyScalar(0.075 * (1.3 - t + 0.5));
    const side = new Vector3(-Math.sin(angle), 0, Math.cos(angle)).multiplyScalar(0.02);
    const top = at(Math.min(1.03, t + 0.06));
    const low = at(t).add(out);
    quad(top, low.clone().add(side), low.clone().sub(side), low.clone().add(new Vector3(0, -0.07, 0)), plume);
  }
  return { stalk: geometryOf(stalk), plume: geometryOf(plume) };
}

function geometryOf(positions: number[]): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new Float32BufferAttribute(positions, 3));
  geometry.computeVertexNormals();
  return geometry;
}

/** Plants reeds over `x`, `z` from −`reach` to `reach`, about `spacing` apart where density is 1. */
export function plantReeds(
  shop: Workshop,
  density: Density,
  reach: number,
  spacing: number,
  foot = 0,
): number {
  const variants = Array.from({ length: VARIANTS }, (_, variant) => reedGeometry(variant + 1));
  let planted = 0;
  for (let z = -reach; z < reach; z += spacing) {
    for (let x = -reach; x < reach; x += spacing) {
      const column = Math.round(x / spacing);
      const row = Math.round(z / spacing);
      const atX = x + spacing * (hash01(column, row * 3 + 1) - 0.5);
      const atZ = z + spacing * (hash01(column, row * 3 + 2) - 0.5);
      const chance = density(atX, atZ);
      const dice = hash01(column * 7 + 3, row);
      if (dice >= chance) continue;
      const { stalk, plume } = variants[Math.floor(hash01(column, row + 77) * VARIANTS)]!;
      const tall = 0.72 + 0.34 * hash01(column + 5, row) + 0.25 * (fbm(atX * 0.12, 1, atZ * 0.12, 2) - 0.5);
      const matrix = placed(atX, foot - 0.1, atZ, {
        turnDeg: [0, (hash01(column, row + 5) - 0.5) * 130, 0],
        scale: [tall, tall, tall],
      });
      const seed = hash01(column, row + 9);
      shop.add(stalk, 'reed', matrix, seed);
      if (dice < chance * 0.8) shop.add(plume, 'plume', matrix, seed);
      planted += 1;
    }
  }
  return planted;
}

/** Uneven ground of mud about the water's edge: above water where `height` is. */
export function layGround(
  shop: Workshop,
  height: Density,
  reach: number,
  cells: number,
  surface: 'mud' | 'ground',
): void {
  const sheet = new PlaneGeometry(reach * 2, reach * 2, cells, cells);
  const at = sheet.getAttribute('position');
  for (let index = 0; index < at.count; index += 1) {
    const x = at.getX(index);
    const z = -at.getY(index);
    at.setXYZ(index, x, height(x, z), z);
  }
  sheet.computeVertexNormals();
  shop.add(sheet, surface);
}

/** The depth of a reed bed, where single stalks no longer show: a ragged wall that stands where `isReed` says so. */
export function raiseThicket(shop: Workshop, radius: number, height: number, isReed: Density): void {
  const positions: number[] = [];
  const steps = 5200;
  const at = (step: number, y: number) => {
    const angle = (step / steps) * 2 * Math.PI;
    return new Vector3(Math.cos(angle) * radius, y, Math.sin(angle) * radius);
  };
  for (let step = 0; step < steps; step += 1) {
    const foot = at(step, -0.2);
    const share = isReed(foot.x, foot.z);
    if (share < 0.05) continue;
    const lift = 0.75 + 0.3 * fbm(foot.x * 0.12, 1, foot.z * 0.12, 2) + 0.32 * hash01(step, 21);
    const top = at(step + 0.5, height * lift * share);
    const next = at(step + 1, -0.2);
    for (const p of [at(step - 1.5, -0.2), next, top]) positions.push(p.x, p.y, p.z);
  }
  shop.add(geometryOf(positions), 'thicket');
}

/** Far belts of reed and trees as jagged bands about the origin, each `radius` away and so high. */
export function raiseHorizon(
  shop: Workshop,
  belts: readonly (readonly [radius: number, height: number])[],
): void {
  for (const [radius, height] of belts) {
    const positions: number[] = [];
    const steps = 1400;
    const topAt = (step: number) => {
      const angle = (step / steps) * 2 * Math.PI;
      const x = Math.cos(angle) * radius;
      const z = Math.sin(angle) * radius;
      const slow = fbm(x * 0.02, radius, z * 0.02, 3);
      const quick = noise(x * 0.9, radius, z * 0.9);
      const gap = radius < 100 ? Math.max(0, fbm(x * 0.03 + 9, radius * 2, z * 0.03, 2) - 0.38) * 3 : 1;
      return Math.max(0, height * (0.35 + slow * 0.9 + 0.13 * quick)) * Math.min(1, gap);
    };
    for (let step = 0; step < steps; step += 1) {
      const corners = [step, step + 1].map((at) => {
        const angle = (at / steps) * 2 * Math.PI;
        return new Vector3(Math.cos(angle) * radius, 0, Math.sin(angle) * radius);
      });
      const [a, b] = corners as [Vector3, Vector3];
      const c = a.clone().setY(topAt(step));
      const d = b.clone().setY(topAt(step + 1));
      for (const p of [a, b, c, b, d, c]) positions.push(p.x, p.y - 0.2, p.z);
    }
    shop.add(geometryOf(positions), 'far');
  }
}

import type { Bvh } from './bvh.ts';
import type { Camera } from './camera.ts';
import { Hit } from './hit.ts';
import { type Light, Sky } from './light.ts';
import { fbm, mix } from './noise.ts';
import { Samples } from './samples.ts';
import { bvhOf, FAR, type Scene, SHADOW_REACH } from './scene.ts';
import { SURFACE } from './surfaces.ts';
import { waveHeight } from './waves.ts';

/** So far away nothing darkens a place, or throws its shadow on it, that anyone would see. Metres. */
const GATHER_REACH = 14;
const GLASS_TINT = 0.955;
/** From this roughness on, and below this share, what a surface mirrors is not followed by a ray of its own. */
const DULL = 0.5;
const FAINT = 0.25;
/**
 * Light along rays through a scene, by next-event estimation and one bounce: enough for soft shadows, occlusion and colour
 * that spills from one thing to the next. Answers stay in fields, since a call that allocates is too slow here.
 */
export class Tracer {
  readonly #bvh: Bvh;
  readonly #sky: Sky;
  readonly #sunU: readonly number[];
  readonly #sunV: readonly number[];
  readonly #sunSpread: number;
  readonly #samples = new Samples();
  readonly #hit: Hit;
  /** Light that falls on matt surfaces times their colour, the rest, and the colour itself, each r g b. */
  readonly matt = new Float64Array(3);
  readonly rest = new Float64Array(3);
  readonly colour = new Float64Array(3);
  /** Normal and distance of what was seen first, and its part (−1: none). */
  readonly normal = new Float64Array(3);
  depth = 0;
  part = -1;
  material = -1;
  #lit = new Float64Array(3);
  /** What a bounce brought to this pixel, and to which part of the scene. */
  readonly #around = new Float64Array(3);
  #gatheredFor = -1;

  readonly scene: Scene;
  readonly light: Light;

  constructor(scene: Scene, light: Light, bvh?: Bvh) {
    this.scene = scene;
    this.light = light;
    this.#bvh = bvh ?? bvhOf(scene);
    this.#hit = new Hit(scene.mesh);
    this.#sky = new Sky(light);
    const [sx, sy, sz] = this.#sky.sun;
    const side = Math.abs(sy) < 0.9 ? [0, 1, 0] : [1, 0, 0];
    const u = [sy * side[2]! - sz * side[1]!, sz * side[0]! - sx * side[2]!, sx * side[1]! - sy * side[0]!];
    const length = Math.hypot(u[0]!, u[1]!, u[2]!);
    this.#sunU = u.map((at) => at / length);
    const [ux, uy, uz] = this.#sunU as [number, number, number];
    this.#sunV = [sy * uz - sz * uy, sz * ux - sx * uz, sx * uy - sy * ux];
    this.#sunSpread = Math.tan((light.radiusDeg * Math.PI) / 180);
  }

  /** Begins a pixel. */
  begin(seed: number): void {
    this.#samples.begin(seed);
    this.#gatheredFor = -1;
  }

  /** Traces one sample of a pixel; `x`, `y` are the pixel's top left corner. */
  pixel(camera: Camera, x: number, y: number, sample: number): void {
    this.#samples.ray = sample;
    const px = x + this.#samples.a(0) - camera.width / 2;
    const py = camera.height / 2 - (y + this.#samples.b(0));
    const { forward, right, up, focalPx, pose } = camera;
    let [ox, oy, oz] = camera.eye as readonly number[] as [number, number, number];
    let dx = forward[0] * focalPx + right[0] * px + up[0] * py;
    let dy = forward[1] * focalPx + right[1] * px + up[1] * py;
    let dz = forward[2] * focalPx + right[2] * px + up[2] * py;
    if (pose.apertureM) {
      const focus = (pose.focusM ?? pose.distanceM) / focalPx;
      const radius = pose.apertureM * Math.sqrt(this.#samples.a(1));
      const angle = this.#samples.b(1) * 2 * Math.PI;
      const lensX = radius * Math.cos(angle);
      const lensY = radius * Math.sin(angle);
      const mx = right[0] * lensX + up[0] * lensY;
      const my = right[1] * lensX + up[1] * lensY;
      const mz = right[2] * lensX + up[2] * lensY;
      dx = dx * focus - mx;
      dy = dy * focus - my;
      dz = dz * focus - mz;
      ox += mx;
      oy += my;
      oz += mz;
    }
    const length = Math.hypot(dx, dy, dz);
    this.#trace(ox, oy, oz, dx / length, dy / length, dz / length);
  }

  #trace(ox: number, oy: number, oz: number, dx: number, dy: number, dz: number): void {
    this.matt.fill(0);
    this.rest.fill(0);
    this.colour.fill(1);
    this.normal.fill(0);
    this.part = -1;
    this.material = -1;
    let through = 1;
    let travelled = 0;
    for (let pane = 0; pane < 8; pane += 1) {
      const hit = this.#bvh.cast(ox, oy, oz, dx, dy, dz, FAR, false);
      const t = hit ? this.#bvh.distance : FAR;
      const water = this.scene.water && dy < -1e-6 && oy > 0 ? -oy / dy : Infinity;
      if (water < t) {
        this.depth = travelled + water;
        this.#water(ox + dx * water, oz + dz * water, dx, dy, dz, water, oy, through);
        return;
      }
      if (!hit) {
        this.depth = FAR;
        this.#sky.seen(dx, dy, dz);
        const clear = this.scene.water ? this.#sky.through(oy, dy, 900) : 1;
        this.#toRest(clear * through);
        this.#addAir(dx, dy, dz, (1 - clear) * through);
        return;
      }
      const { triangle, u, v } = this.#bvh;
      if (this.scene.mesh.material[triangle] !== SURFACE.glass) {
        this.depth = travelled + t;
        this.#solid(triangle, u, v, ox + dx * t, oy + dy * t, oz + dz * t, dx, dy, dz, t, oy, through);
        return;
      }
      this.#hit.face(triangle, u, v, dx, dy, dz);
      const cos = -(dx * this.#hit.nx + dy * this.#hit.ny + dz * this.#hit.nz);
      const fresnel = 0.05 + 0.95 * (1 - cos) ** 5;
      const rx = dx + 2 * cos * this.#hit.nx;
      const ry = dy + 2 * cos * this.#hit.ny;
      const rz = dz + 2 * cos * this.#hit.nz;
      const px = ox + dx * t;
      const py = oy + dy * t;
      const pz = oz + dz * t;
      this.#glint(rx, ry, rz, 900, fresnel * through * 0.02);
      this.#sky.soft(rx, ry, rz);
      this.#toRest(fresnel * through * 0.8);
      through *= (1 - fresnel) * GLASS_TINT;
      travelled += t;
      ox = px + dx * 1e-5;
      oy = py + dy * 1e-5;
      oz = pz + dz * 1e-5;
    }
  }

  #toRest(share: number): void {
    this.rest[0] = this.rest[0]! + this.#sky.r * share;
    this.rest[1] = this.rest[1]! + this.#sky.g * share;
    this.rest[2] = this.rest[2]! + this.#sky.b * share;
  }

  #addAir(dx: number, dy: number, dz: number, share: number): void {
    if (share <= 0) return;
    this.#sky.air(dx, dy, dz);
    this.#toRest(share);
  }

  /** The key light as a highlight along a mirrored direction. */
  #glint(rx: number, ry: number, rz: number, power: number, share: number): void {
    const [sx, sy, sz] = this.#sky.sun;
    const along = Math.max(0, rx * sx + ry * sy + rz * sz);
    const strength = ((power + 2) / 8) * along ** power * share;
    const { colour } = this.light;
    this.rest[0] = this.rest[0]! + colour[0] * strength;
    this.rest[1] = this.rest[1]! + colour[1] * strength;
    this.rest[2] = this.rest[2]! + colour[2] * strength;
  }

  /** Share of the key light that reaches a point, towards one random place of it; its direction stays in `#lit`. */
  #sunReaches(x: number, y: number, z: number, pair: number): number {
    const radius = this.#sunSpread * Math.sqrt(this.#samples.a(pair));
    const angle = this.#samples.b(pair) * 2 * Math.PI;
    const a = radius * Math.cos(angle);
    const b = radius * Math.sin(angle);
    const [sx, sy, sz] = this.#sky.sun;
    let lx = sx + this.#sunU[0]! * a + this.#sunV[0]! * b;
    let ly = sy + this.#sunU[1]! * a + this.#sunV[1]! * b;
    let lz = sz + this.#sunU[2]! * a + this.#sunV[2]! * b;
    const length = Math.hypot(lx, ly, lz);
    lx /= length;
    ly /= length;
    lz /= length;
    this.#lit[0] = lx;
    this.#lit[1] = ly;
    this.#lit[2] = lz;
    if (ly < -0.02 && this.scene.water) return 0;
    return this.#bvh.cast(x, y, z, lx, ly, lz, SHADOW_REACH, true) ? 0 : 1;
  }

  #solid(
    triangle: number,
    u: number,
    v: number,
    x: number,
    y: number,
    z: number,
    dx: number,
    dy: number,
    dz: number,
    t: number,
    oy: number,
    share: number,
  ): void {
    const { light } = this;
    this.#hit.face(triangle, u, v, dx, dy, dz);
    const fx = this.#hit.nx;
    const fy = this.#hit.ny;
    const fz = this.#hit.nz;
    const place = this.#hit.describe(triangle, u, v, x, y, z, true);
    const { r, g, b, gloss, rough, glow, translucent } = place;
    const nx = this.#hit.nx;
    const ny = this.#hit.ny;
    const nz = this.#hit.nz;
    this.part = this.scene.mesh.part[triangle]!;
    this.material = this.scene.mesh.material[triangle]!;
    this.normal[0] = nx;
    this.normal[1] = ny;
    this.normal[2] = nz;
    const lift = 2e-4 + t * 2e-5;
    const px = x + fx * lift;
    const py = y + fy * lift;
    const pz = z + fz * lift;
    const clear = this.scene.water || light.fog ? this.#sky.through(oy, dy, t) : 1;
    const kept = clear * share;
    this.#addAir(dx, dy, dz, (1 - clear) * share);

    const sun = this.#sunReaches(px, py, pz, 2);
    const lx = this.#lit[0]!;
    const ly = this.#lit[1]!;
    const lz = this.#lit[2]!;
    const facing = nx * lx + ny * ly + nz * lz;
    const front = Math.max(0, facing);
    let er = light.colour[0] * front * sun;
    let eg = light.colour[1] * front * sun;
    let eb = light.colour[2] * front * sun;
    if (translucent > 0 && facing < 0) {
      const back = this.#bvh.cast(x - fx * lift, y - fy * lift, z - fz * lift, lx, ly, lz, SHADOW_REACH, true)
        ? 0
        : 1;
      er += light.colour[0] * -facing * back * translucent;
      eg += light.colour[1] * -facing * back * translucent;
      eb += light.colour[2] * -facing * back * translucent * 0.7;
    }
    // Two neighbouring rays of a pixel share what the rest of the scene sends.
    if (this.#samples.ray % 2 === 0 || this.#gatheredFor !== this.part) {
      this.#gather(px, py, pz, nx, ny, nz, fx, fy, fz);
      this.#around.set(this.#lit);
      this.#gatheredFor = this.part;
    }
    er += this.#around[0]!;
    eg += this.#around[1]!;
    eb += this.#around[2]!;
    for (const lamp of light.lamps ?? []) {
      const lampX = lamp.at[0] + lamp.radiusM * (this.#samples.random() * 2 - 1);
      const lampY = lamp.at[1] + lamp.radiusM * (this.#samples.random() * 2 - 1);
      const lampZ = lamp.at[2] + lamp.radiusM * (this.#samples.random() * 2 - 1);
      const wx = lampX - px;
      const wy = lampY - py;
      const wz = lampZ - pz;
      const distance = Math.hypot(wx, wy, wz) || 1e-6;
      const cos = (nx * wx + ny * wy + nz * wz) / distance;
      const gap = distance - lamp.radiusM * 2.2;
      if (cos <= 0) continue;
      if (gap > 0 && this.#bvh.cast(px, py, pz, wx / distance, wy / distance, wz / distance, gap, true))
        continue;
      const strength = cos / (distance * distance + lamp.radiusM * lamp.radiusM);
      er += lamp.colour[0] * strength;
      eg += lamp.colour[1] * strength;
      eb += lamp.colour[2] * strength;
    }
    this.colour[0] = r;
    this.colour[1] = g;
    this.colour[2] = b;
    this.matt[0] = er * r * kept * (1 - gloss);
    this.matt[1] = eg * g * kept * (1 - gloss);
    this.matt[2] = eb * b * kept * (1 - gloss);
    if (glow > 0) {
      this.rest[0] = this.rest[0]! + r * glow * kept;
      this.rest[1] = this.rest[1]! + g * glow * kept;
      this.rest[2] = this.rest[2]! + b * glow * kept;
    }
    if (gloss > 0)
      this.#shine(px, py, pz, nx, ny, nz, fx, fy, fz, dx, dy, dz, r, g, b, gloss, rough, sun, kept);
  }

  #shine(
    px: number,
    py: number,
    pz: number,
    nx: number,
    ny: number,
    nz: number,
    fx: number,
    fy: number,
    fz: number,
    dx: number,
    dy: number,
    dz: number,
    r: number,
    g: number,
    b: number,
    gloss: number,
    rough: number,
    sun: number,
    kept: number,
  ): void {
    const cos = Math.max(0, -(dx * nx + dy * ny + dz * nz));
    const fresnel = gloss + (Math.max(1 - rough, gloss) - gloss) * (1 - cos) ** 5;
    let rx = dx + 2 * cos * nx;
    let ry = dy + 2 * cos * ny;
    let rz = dz + 2 * cos * nz;
    // Metals tint what they mirror.
    const tint = gloss > 0.3 ? 1 : 0;
    const tr = mix(1, r * 1.6, tint);
    const tg = mix(1, g * 1.6, tint);
    const tb = mix(1, b * 1.6, tint);
    if (sun > 0) {
      const [sx, sy, sz] = this.#sky.sun;
      const hx = sx - dx;
      const hy = sy - dy;
      const hz = sz - dz;
      const half = (nx * hx + ny * hy + nz * hz) / (Math.hypot(hx, hy, hz) || 1);
      const spread = Math.max(rough * rough, this.#sunSpread * 0.5);
      const power = Math.min(2 / (spread * spread) - 1.9, 3000);
      const front = Math.max(0, nx * sx + ny * sy + nz * sz);
      const strength = fresnel * ((power + 2) / 8) * Math.max(0, half) ** power * front * kept * sun;
      const { colour } = this.light;
      this.rest[0] = this.rest[0]! + colour[0] * strength * tr;
      this.rest[1] = this.rest[1]! + colour[1] * strength * tg;
      this.rest[2] = this.rest[2]! + colour[2] * strength * tb;
    }
    if (fresnel * kept < 0.012) return;
    if (rough >= DULL && fresnel < FAINT) {
      // So dull a surface mirrors about what it gathers.
      this.rest[0] = this.rest[0]! + this.#around[0]! * fresnel * kept * tr;
      this.rest[1] = this.rest[1]! + this.#around[1]! * fresnel * kept * tg;
      this.rest[2] = this.rest[2]! + this.#around[2]! * fresnel * kept * tb;
      return;
    }
    const spread = rough * rough;
    const angle = this.#samples.b(5) * 2 * Math.PI;
    const lean = spread * Math.sqrt(this.#samples.a(5));
    rx += lean * Math.cos(angle) * (1 - Math.abs(nx)) + lean * 0.5 * (this.#samples.random() - 0.5);
    ry += lean * Math.sin(angle);
    rz += lean * (this.#samples.random() * 2 - 1);
    const length = Math.hypot(rx, ry, rz) || 1;
    rx /= length;
    ry /= length;
    rz /= length;
    const under = rx * fx + ry * fy + rz * fz;
    if (under < 0.01) {
      rx += fx * (0.02 - under);
      ry += fy * (0.02 - under);
      rz += fz * (0.02 - under);
    }
    this.#glance(px, py, pz, rx, ry, rz);
    this.rest[0] = this.rest[0]! + this.#lit[0]! * fresnel * kept * tr;
    this.rest[1] = this.rest[1]! + this.#lit[1]! * fresnel * kept * tg;
    this.rest[2] = this.rest[2]! + this.#lit[2]! * fresnel * kept * tb;
  }

  /** Light that one bounce brings to a matt surface, into `#lit`. */
  #gather(
    px: number,
    py: number,
    pz: number,
    nx: number,
    ny: number,
    nz: number,
    fx: number,
    fy: number,
    fz: number,
  ): void {
    const a = this.#samples.a(3);
    const angle = this.#samples.b(3) * 2 * Math.PI;
    const radius = Math.sqrt(a);
    // Duff et al., "Building an orthonormal basis, revisited", 2017.
    const sign = nz >= 0 ? 1 : -1;
    const p = -1 / (sign + nz);
    const q = nx * ny * p;
    const ca = radius * Math.cos(angle);
    const sa = radius * Math.sin(angle);
    const up = Math.sqrt(Math.max(0, 1 - a));
    let dx = (1 + sign * nx * nx * p) * ca + q * sa + nx * up;
    let dy = sign * q * ca + (sign + ny * ny * p) * sa + ny * up;
    let dz = -sign * nx * ca - ny * sa + nz * up;
    const under = dx * fx + dy * fy + dz * fz;
    if (under < 0) {
      dx -= 2 * under * fx;
      dy -= 2 * under * fy;
      dz -= 2 * under * fz;
    }
    if (this.#bvh.cast(px, py, pz, dx, dy, dz, GATHER_REACH, false)) {
      const { triangle, u, v, distance } = this.#bvh;
      this.#far(triangle, u, v, px + dx * distance, py + dy * distance, pz + dz * distance, dx, dy, dz, 4);
      return;
    }
    this.#sky.soft(dx, dy, dz);
    // The dome does not end at the ground: water and marsh send back what falls on them.
    this.#lit[0] = this.#sky.r;
    this.#lit[1] = this.#sky.g;
    this.#lit[2] = this.#sky.b;
  }

  /** What a mirrored ray sees, into `#lit`. */
  #glance(px: number, py: number, pz: number, dx: number, dy: number, dz: number): void {
    if (this.#bvh.cast(px, py, pz, dx, dy, dz, FAR, false)) {
      const { triangle, u, v, distance } = this.#bvh;
      const clear = this.#sky.through(py, dy, distance);
      this.#far(triangle, u, v, px + dx * distance, py + dy * distance, pz + dz * distance, dx, dy, dz, 6);
      if (clear < 1) {
        this.#sky.air(dx, dy, dz);
        this.#lit[0] = mix(this.#sky.r, this.#lit[0]!, clear);
        this.#lit[1] = mix(this.#sky.g, this.#lit[1]!, clear);
        this.#lit[2] = mix(this.#sky.b, this.#lit[2]!, clear);
      }
      return;
    }
    this.#sky.seen(dx, Math.abs(dy), dz);
    const clear = this.scene.water ? this.#sky.through(py, Math.abs(dy), 900) : 1;
    this.#lit[0] = this.#sky.r;
    this.#lit[1] = this.#sky.g;
    this.#lit[2] = this.#sky.b;
    if (clear < 1) {
      this.#sky.air(dx, Math.abs(dy), dz);
      this.#lit[0] = mix(this.#sky.r, this.#lit[0]!, clear);
      this.#lit[1] = mix(this.#sky.g, this.#lit[1]!, clear);
      this.#lit[2] = mix(this.#sky.b, this.#lit[2]!, clear);
    }
    // The disc itself comes by its highlight, or it would speckle.
    for (let c = 0; c < 3; c += 1) this.#lit[c] = Math.min(this.#lit[c]!, 3);
  }

  /** A surface seen by bounce or mirror: key light, the dome and lamps without their shadows, into `#lit`. */
  #far(
    triangle: number,
    u: number,
    v: number,
    x: number,
    y: number,
    z: number,
    dx: number,
    dy: number,
    dz: number,
    pair: number,
  ): void {
    this.#hit.face(triangle, u, v, dx, dy, dz);
    const nx = this.#hit.nx;
    const ny = this.#hit.ny;
    const nz = this.#hit.nz;
    const { r, g, b, glow } = this.#hit.describe(triangle, u, v, x, y, z, false);
    const lift = 1e-3;
    const sun = this.#sunReaches(x + nx * lift, y + ny * lift, z + nz * lift, pair);
    const front = Math.max(0, nx * this.#lit[0]! + ny * this.#lit[1]! + nz * this.#lit[2]!) * sun;
    this.#sky.soft(nx, ny, nz);
    const { colour, lamps = [] } = this.light;
    let er = colour[0] * front + this.#sky.r * 0.55;
    let eg = colour[1] * front + this.#sky.g * 0.55;
    let eb = colour[2] * front + this.#sky.b * 0.55;
    for (const lamp of lamps) {
      const wx = lamp.at[0] - x;
      const wy = lamp.at[1] - y;
      const wz = lamp.at[2] - z;
      const square = wx * wx + wy * wy + wz * wz + lamp.radiusM * lamp.radiusM;
      const strength = Math.max(0, nx * wx + ny * wy + nz * wz) / (Math.sqrt(square) * square);
      er += lamp.colour[0] * strength;
      eg += lamp.colour[1] * strength;
      eb += lamp.colour[2] * strength;
    }
    // A flame seen by a bounce is already counted as a lamp.
    const own = pair === 6 ? glow : Math.min(glow, 0.3);
    this.#lit[0] = r * (er + own);
    this.#lit[1] = g * (eg + own);
    this.#lit[2] = b * (eb + own);
  }

  #water(
    x: number,
    z: number,
    dx: number,
    dy: number,
    dz: number,
    t: number,
    oy: number,
    share: number,
  ): void {
    const { waves, murk } = this.scene.water!;
    const calm = waves / (1 + t * 0.03);
    const step = 0.01 + t * 0.0016;
    const here = waveHeight(x, z);
    let nx = ((here - waveHeight(x + step, z)) / step) * calm;
    let nz = ((here - waveHeight(x, z + step)) / step) * calm;
    const length = Math.hypot(nx, 1, nz);
    nx /= length;
    nz /= length;
    const ny = 1 / length;
    const cos = Math.max(0.02, -(dx * nx + dy * ny + dz * nz));
    const fresnel = Math.min(1, 0.022 + 0.978 * (1 - cos) ** 5);
    const rx = dx + 2 * cos * nx;
    let ry = dy + 2 * cos * ny;
    const rz = dz + 2 * cos * nz;
    ry = Math.abs(ry) + 0.001;
    const clear = this.#sky.through(oy, dy, t);
    const kept = clear * share;
    this.part = -2;
    this.normal[1] = 1;
    this.#addAir(dx, dy, dz, (1 - clear) * share);
    this.#glance(x, 0.012, z, rx, ry, rz);
    for (let c = 0; c < 3; c += 1) this.rest[c] = this.rest[c]! + this.#lit[c]! * fresnel * kept;
    const sun = this.#sunReaches(x, 0.01, z, 2);
    if (sun > 0) this.#glint(rx, ry, rz, 420, fresnel * kept * 0.35);
    this.#sky.soft(0, 1, 0);
    const depth = 0.75 + 0.5 * fbm(x * 0.35, 2, z * 0.35, 3);
    const down = Math.max(0, this.#sky.sun[1]) * sun;
    const { colour } = this.light;
    this.rest[0] = this.rest[0]! + murk[0] * depth * (this.#sky.r + colour[0] * down) * (1 - fresnel) * kept;
    this.rest[1] = this.rest[1]! + murk[1] * depth * (this.#sky.g + colour[1] * down) * (1 - fresnel) * kept;
    this.rest[2] = this.rest[2]! + murk[2] * depth * (this.#sky.b + colour[2] * down) * (1 - fresnel) * kept;
  }
}

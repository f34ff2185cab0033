import { fbm, hash01, mix, noise, smooth } from './noise.ts';

/** A place on a surface: where it is asked, and what it answers. */
export interface Place {
  /** Where it lay before its part was placed, metres. */
  x: number;
  y: number;
  z: number;
  /** Where it is in the world, metres. */
  worldX: number;
  worldY: number;
  worldZ: number;
  /** How far it faces up, −1..1. */
  facesUp: number;
  seed: number;
  /** Whether fine relief is wanted. */
  close: boolean;
  r: number;
  g: number;
  b: number;
  /** Reflectance straight on, 0..1, and roughness, 0..1. */
  gloss: number;
  rough: number;
  /** Own light. */
  glow: number;
  /** Share of light that comes through from behind. */
  translucent: number;
  /** Slope of the relief in the rest frame. */
  slopeX: number;
  slopeY: number;
  slopeZ: number;
}

type Height = (x: number, y: number, z: number) => number;

function relief(at: Place, height: Height, strength: number, step: number): void {
  if (!at.close) return;
  const here = height(at.x, at.y, at.z);
  const k = strength / step;
  at.slopeX += (height(at.x + step, at.y, at.z) - here) * k;
  at.slopeY += (height(at.x, at.y + step, at.z) - here) * k;
  at.slopeZ += (height(at.x, at.y, at.z + step) - here) * k;
}

function paint(at: Place, r: number, g: number, b: number): void {
  at.r = r;
  at.g = g;
  at.b = b;
}

function blend(at: Place, r: number, g: number, b: number, share: number): void {
  at.r = mix(at.r, r, share);
  at.g = mix(at.g, g, share);
  at.b = mix(at.b, b, share);
}

function shadeBy(at: Place, factor: number): void {
  at.r *= factor;
  at.g *= factor;
  at.b *= factor;
}

/** Wood whose grain runs along x of its rest frame. */
function grain(at: Place, dark: readonly number[], light: readonly number[], fine: number): number {
  const shift = at.seed * 31;
  const wave = fbm(at.x * 0.9 * fine + shift, at.y * 6 * fine + shift, at.z * 6 * fine - shift, 3);
  const rings = 0.5 + 0.5 * Math.sin((wave * 9 + at.y * 3 * fine) * 3.1);
  const fibre = noise(at.x * 4 * fine, at.y * 70 * fine + shift, at.z * 70 * fine);
  const t = Math.min(1, Math.max(0, 0.55 * rings + 0.35 * fibre + 0.25 * wave));
  paint(at, mix(dark[0]!, light[0]!, t), mix(dark[1]!, light[1]!, t), mix(dark[2]!, light[2]!, t));
  return t;
}

function hull(at: Place): void {
  const stain = fbm(at.x * 1.1 + 4, at.y * 1.7, at.z * 1.1, 5);
  const rust = smooth(0.5, 0.6, stain + 0.2 * smooth(0.35, -0.1, at.worldY));
  const streak =
    smooth(0.52, 0.75, fbm(at.x * 6.5, at.y * 0.35, at.z * 6.5, 3)) * smooth(0.75, 0.05, at.worldY);
  const tone = fbm(at.x * 3, at.y * 3, at.z * 3, 3);
  paint(at, mix(0.13, 0.21, tone), mix(0.23, 0.31, tone), mix(0.205, 0.265, tone));
  const fine = fbm(at.x * 9, at.y * 9, at.z * 9, 3);
  const share = Math.min(1, rust + 0.5 * streak);
  blend(at, mix(0.2, 0.4, fine), mix(0.07, 0.155, fine), mix(0.03, 0.06, fine), share);
  const wet = smooth(0.24, 0.02, at.worldY + 0.05 * noise(at.x * 2, 0, at.z * 2));
  shadeBy(at, mix(1, 0.34, wet));
  blend(at, 0.045, 0.06, 0.022, wet * smooth(0.45, 0.6, fbm(at.x * 4, at.y * 9, 1, 3)));
  at.gloss = mix(0.05, 0.02, share) + wet * 0.05;
  at.rough = mix(0.35, 0.8, share) * (1 - 0.6 * wet);
  relief(at, (x, y, z) => fbm(x * 7, y * 7, z * 7, 3) + share * fbm(x * 30, y * 30, z * 30, 2), 0.012, 0.004);
}

/** Deck planks; wet where `wetness` of the place says so. */
function board(at: Place, wet: number): void {
  const t = grain(at, [0.115, 0.08, 0.052], [0.34, 0.262, 0.185], 1);
  shadeBy(at, 0.72 + 0.5 * at.seed);
  blend(at, 0.3, 0.29, 0.265, 0.45 * smooth(0.42, 0.62, fbm(at.worldX, 3, at.worldZ, 3)));
  shadeBy(at, mix(1, 0.5, wet));
  at.gloss = 0.02 + 0.035 * wet;
  at.rough = mix(0.75, 0.14, wet);
  relief(
    at,
    (x, y, z) => noise(x * 4, y * 70, z * 70) + 0.6 * fbm(x * 3, y * 20, z * 20, 2) + t,
    0.0022 * (1 - 0.7 * wet),
    0.0015,
  );
}

function plank(at: Place): void {
  board(at, at.facesUp > 0.6 ? smooth(0.5, 0.6, fbm(at.worldX * 0.8 + 11, 0.3, at.worldZ * 0.8, 4)) : 0);
}

/** Just after rain: damp everywhere, water standing in places. */
function wetPlank(at: Place): void {
  const pool = smooth(0.46, 0.53, fbm(at.worldX * 2.3 + 4, 0.3, at.worldZ * 2.9, 4));
  board(at, at.facesUp > 0.6 ? 0.45 + 0.55 * pool : 0.4);
  at.gloss = mix(0.035, 0.075, pool);
  at.rough = mix(0.3, 0.03, pool);
}

function siding(at: Place): void {
  const tone = fbm(at.x * 2.1 + at.seed * 9, at.y * 8, at.z * 2.1, 4);
  paint(at, mix(0.5, 0.68, tone), mix(0.42, 0.57, tone), mix(0.275, 0.4, tone));
  const bare = smooth(0.53, 0.62, fbm(at.worldX * 3.2 + at.seed * 5, at.worldY * 4.6, at.worldZ * 3.2, 5));
  blend(at, 0.22, 0.165, 0.115, bare * 0.85);
  const drip = smooth(0.55, 0.8, fbm(at.worldX * 9, at.worldY * 0.8, at.worldZ * 9, 3));
  blend(at, 0.16, 0.13, 0.1, drip * 0.35);
  at.gloss = 0.03;
  at.rough = 0.55;
  relief(at, (x, y, z) => noise(x * 5, y * 60, z * 60) - 1.5 * bare, 0.0012, 0.002);
}

function roof(at: Place): void {
  const rust = smooth(0.4, 0.6, fbm(at.worldX * 1.8, at.worldY * 2, at.worldZ * 1.1, 5));
  paint(at, 0.21, 0.2, 0.195);
  const fine = fbm(at.worldX * 12, at.worldY * 12, at.worldZ * 12, 3);
  blend(at, mix(0.17, 0.36, fine), mix(0.065, 0.14, fine), mix(0.035, 0.06, fine), rust);
  at.gloss = mix(0.12, 0.025, rust);
  at.rough = mix(0.4, 0.8, rust);
}

function iron(at: Place): void {
  const shift = at.seed * 13;
  const rust = smooth(0.36, 0.62, fbm(at.x * 6 + shift, at.y * 6, at.z * 6, 5));
  const fine = fbm(at.x * 34 + shift, at.y * 34, at.z * 34, 3);
  paint(at, 0.052, 0.05, 0.05);
  blend(at, mix(0.13, 0.34, fine), mix(0.05, 0.125, fine), mix(0.025, 0.05, fine), rust);
  at.gloss = mix(0.22, 0.03, rust);
  at.rough = mix(0.34, 0.8, rust);
  relief(
    at,
    (x, y, z) => fbm(x * 40, y * 40, z * 40, 3) * (0.4 + rust) + fbm(x * 8, y * 8, z * 8, 2),
    0.0035,
    0.0016,
  );
}

function rope(at: Place): void {
  const fibre = noise(at.x * 150 + at.seed * 40, at.y * 150, at.z * 150);
  const tone = 0.5 + 0.35 * fibre + 0.5 * (fbm(at.worldX * 5, at.worldY * 5, at.worldZ * 5, 3) - 0.5);
  paint(at, mix(0.22, 0.52, tone), mix(0.165, 0.4, tone), mix(0.095, 0.24, tone));
  at.gloss = 0.02;
  at.rough = 0.8;
  relief(at, (x, y, z) => noise(x * 220, y * 220, z * 220), 0.0012, 0.0012);
}

function flame(at: Place): void {
  const up = smooth(0.17, 0.28, at.worldY);
  paint(at, 1, mix(0.5, 0.72, up), mix(0.13, 0.36, up));
  at.glow = 5;
}

function lampGlass(at: Place): void {
  const core = Math.exp(-(((at.y - 0.09) / 0.05) ** 2));
  paint(at, 1, mix(0.56, 0.8, core), mix(0.22, 0.5, core));
  at.glow = 0.55 + 2.3 * core;
}

function reed(at: Place): void {
  const height = Math.min(1, Math.max(0, at.y / 2.6));
  const dry = 0.35 + 0.65 * at.seed;
  paint(
    at,
    mix(0.07, 0.44 * dry + 0.05, height),
    mix(0.07, 0.33 * dry + 0.06, height),
    mix(0.026, 0.14, height),
  );
  blend(at, 0.1, 0.15, 0.04, 0.55 * smooth(0.75, 0.2, at.seed));
  at.translucent = 0.3;
  at.gloss = 0.025;
  at.rough = 0.5;
}

function thicket(at: Place): void {
  const around = Math.atan2(at.worldZ, at.worldX) * 260;
  const streak =
    0.5 + 0.5 * noise(around, at.worldY * 0.35, 3) + 0.35 * noise(around * 3.7, at.worldY * 0.6, 8);
  const height = smooth(0, 2.4, at.worldY);
  const deep = mix(0.35, 1, height) * (0.55 + 0.6 * streak);
  paint(at, mix(0.1, 0.3, height) * deep, mix(0.1, 0.235, height) * deep, mix(0.045, 0.11, height) * deep);
  at.translucent = 0.15;
}

function plume(at: Place): void {
  const tone = 0.5 + 0.5 * noise(at.x * 60, at.y * 25, at.z * 60);
  paint(at, mix(0.16, 0.36, tone), mix(0.11, 0.25, tone), mix(0.075, 0.165, tone));
  at.translucent = 0.4;
}

function mud(at: Place): void {
  const tone = fbm(at.worldX * 2.2, at.worldY * 3, at.worldZ * 2.2, 4);
  paint(at, mix(0.075, 0.15, tone), mix(0.062, 0.118, tone), mix(0.045, 0.082, tone));
  const wet = smooth(0.56, 0.4, tone);
  at.gloss = 0.03 + 0.02 * wet;
  at.rough = mix(0.6, 0.16, wet);
  relief(
    at,
    (x, y, z) => fbm(x * 3, y * 3, z * 3, 4) + 0.25 * fbm(x * 19, y * 19, z * 19, 2),
    0.035 * (1 - 0.55 * wet),
    0.008,
  );
}

function tableWood(at: Place): void {
  const t = grain(at, [0.075, 0.043, 0.024], [0.26, 0.165, 0.095], 1.6);
  shadeBy(at, 0.75 + 0.45 * at.seed);
  const scratch = smooth(0.62, 0.7, fbm(at.x * 3 + at.seed * 7, at.y, at.z * 44, 3));
  blend(at, 0.3, 0.22, 0.15, 0.5 * scratch);
  at.gloss = 0.035;
  at.rough = 0.34;
  relief(at, (x, y, z) => noise(x * 7, y * 90, z * 90) + 0.7 * t - scratch, 0.0009, 0.0009);
}

function brass(at: Place): void {
  const tarnish = smooth(0.42, 0.64, fbm(at.x * 15 + 2, at.y * 15, at.z * 15, 5));
  paint(at, 0.56, 0.36, 0.13);
  blend(at, 0.16, 0.105, 0.052, 0.82 * tarnish);
  blend(at, 0.1, 0.2, 0.15, 0.5 * smooth(0.57, 0.68, fbm(at.x * 24, at.y * 24, at.z * 24 + 5, 4)));
  at.gloss = mix(0.62, 0.12, tarnish);
  at.rough = mix(0.2, 0.55, tarnish);
  relief(at, (x, y, z) => fbm(x * 60, y * 60, z * 60, 2) + tarnish, 0.0006, 0.001);
}

function dark(at: Place): void {
  paint(at, 0.02, 0.02, 0.022);
}

function pane(at: Place): void {
  paint(at, 0.025, 0.032, 0.034);
  at.gloss = 0.09;
  at.rough = 0.03;
}

function plaster(at: Place): void {
  const tone = fbm(at.worldX * 1.4, at.worldY * 1.4, at.worldZ * 1.4, 5);
  paint(at, mix(0.19, 0.3, tone), mix(0.185, 0.285, tone), mix(0.17, 0.255, tone));
  relief(at, (x, y, z) => fbm(x * 12, y * 12, z * 12, 4), 0.006, 0.004);
}

function tyre(at: Place): void {
  const dust = fbm(at.x * 9, at.y * 9, at.z * 9, 3);
  paint(at, mix(0.018, 0.06, dust), mix(0.018, 0.055, dust), mix(0.019, 0.05, dust));
  at.gloss = 0.03;
  at.rough = 0.5;
}

function beech(at: Place): void {
  grain(at, [0.44, 0.27, 0.145], [0.69, 0.5, 0.315], 3);
  at.gloss = 0.035;
  at.rough = 0.32;
}

function clay(at: Place): void {
  const tone = fbm(at.x * 28, at.y * 28, at.z * 28, 4);
  paint(at, mix(0.55, 0.62, tone), mix(0.52, 0.585, tone), mix(0.475, 0.54, tone));
  at.gloss = 0.025;
  at.rough = 0.6;
  relief(at, (x, y, z) => fbm(x * 90, y * 90, z * 90, 3), 0.0005, 0.0012);
}

function oilskin(at: Place): void {
  const crack = Math.abs(fbm(at.x * 9, at.y * 9, at.z * 9, 4) - 0.5);
  const tone = fbm(at.x * 3, at.y * 3, at.z * 3, 3);
  paint(at, mix(0.42, 0.56, tone), mix(0.265, 0.35, tone), mix(0.045, 0.075, tone));
  blend(at, 0.1, 0.06, 0.02, 0.2 * smooth(0.03, 0.002, crack) + 0.35 * smooth(0.54, 0.7, tone));
  at.gloss = 0.06;
  at.rough = mix(0.22, 0.42, tone);
  relief(at, (x, y, z) => fbm(x * 22, y * 22, z * 22, 3), 0.003, 0.002);
}

function brick(at: Place): void {
  const course = Math.floor(at.worldY / 0.085);
  const along = (Math.abs(at.facesUp) < 0.5 ? at.worldX + at.worldZ : at.worldX) / 0.24 + (course % 2) * 0.5;
  const number = Math.floor(along);
  const up = Math.abs(at.worldY / 0.085 - course - 0.5);
  const side = Math.abs(along - number - 0.5);
  const joint = Math.max(smooth(0.4, 0.46, up), smooth(0.455, 0.475, side));
  const tone = hash01(number, course) * 0.6 + 0.4 * fbm(at.worldX * 9, at.worldY * 9, at.worldZ * 9, 3);
  paint(at, mix(0.17, 0.36, tone), mix(0.075, 0.155, tone), mix(0.05, 0.1, tone));
  blend(at, 0.25, 0.24, 0.215, joint);
  blend(
    at,
    0.07,
    0.085,
    0.035,
    0.8 * smooth(0.9, 0.1, at.worldY) * smooth(0.42, 0.6, fbm(at.worldX, at.worldY * 2, 4, 4)),
  );
  at.gloss = 0.02;
  at.rough = 0.8;
  relief(at, (x, y, z) => fbm(x * 22, y * 22, z * 22, 3), 0.006, 0.004);
}

function ground(at: Place): void {
  const tone = fbm(at.worldX * 0.9, 0, at.worldZ * 0.9, 5);
  paint(at, mix(0.085, 0.19, tone), mix(0.085, 0.165, tone), mix(0.035, 0.075, tone));
  relief(at, (x, y, z) => fbm(x * 6, y * 6, z * 6, 4), 0.06, 0.02);
}

function far(at: Place): void {
  const tone = fbm(at.worldX * 0.12, at.worldY * 0.5, at.worldZ * 0.12, 4);
  paint(at, mix(0.06, 0.16, tone), mix(0.065, 0.145, tone), mix(0.035, 0.075, tone));
}

function backdrop(at: Place): void {
  const tone = fbm(at.worldX * 0.8, at.worldY * 0.8, at.worldZ * 0.8, 4);
  paint(at, mix(0.2, 0.235, tone), mix(0.198, 0.232, tone), mix(0.19, 0.222, tone));
}

function redLead(at: Place): void {
  const wear = smooth(0.5, 0.6, fbm(at.x * 7, at.y * 7, at.z * 7, 4));
  paint(at, 0.43, 0.075, 0.035);
  blend(at, 0.14, 0.06, 0.035, wear);
  at.gloss = 0.045;
  at.rough = mix(0.3, 0.7, wear);
}

function whitewash(at: Place): void {
  const tone = fbm(at.worldX * 2.5, at.worldY * 2.5, at.worldZ * 2.5, 4);
  paint(at, mix(0.56, 0.7, tone), mix(0.55, 0.68, tone), mix(0.5, 0.61, tone));
}

/** Every surface by its number: meshes name theirs by `SURFACE`. */
const SURFACES = {
  hull,
  plank,
  wetPlank,
  siding,
  roof,
  iron,
  rope,
  flame,
  lampGlass,
  reed,
  plume,
  thicket,
  mud,
  tableWood,
  brass,
  glass: dark,
  dark,
  pane,
  plaster,
  tyre,
  beech,
  clay,
  oilskin,
  brick,
  ground,
  far,
  backdrop,
  redLead,
  whitewash,
};

export type SurfaceName = keyof typeof SURFACES;

const LIST = Object.values(SURFACES);
export const SURFACE = Object.fromEntries(
  Object.keys(SURFACES).map((name, index) => [name, index]),
) as Record<SurfaceName, number>;

/** Fills in what the surface with this number is at a place. */
export function describeSurface(surface: number, at: Place): void {
  at.gloss = 0;
  at.rough = 1;
  at.glow = 0;
  at.translucent = 0;
  at.slopeX = 0;
  at.slopeY = 0;
  at.slopeZ = 0;
  LIST[surface]!(at);
}

import { Matrix4, Quaternion, Vector3 } from 'three';
import { placed } from '../mesh.ts';
import type { Figure } from './figure.ts';
import type { Workshop } from './parts.ts';

/** A turned and jointed wooden figure, built about the joints of a posed `Figure` (metres at full size). */
export function buildMannequin(shop: Workshop, figure: Figure): void {
  const { at, turn } = figure;
  const limb = (from: Vector3, to: Vector3, outline: readonly (readonly [number, number])[]) => {
    const along = to.clone().sub(from);
    const rotation = new Quaternion().setFromUnitVectors(new Vector3(0, 1, 0), along.clone().normalize());
    const own = shop.within(new Matrix4().compose(from, rotation, new Vector3(1, 1, 1)));
    const length = along.length();
    own.turned(
      'beech',
      [0, 0, 0],
      outline.map(([radius, t]) => [radius, t * length]),
      36,
    );
  };
  const ball = (where: Vector3, radius: number) =>
    shop.ball('beech', [where.x, where.y, where.z], radius, 16);
  const inFrame = (where: Vector3, rotation: Quaternion) =>
    shop.within(new Matrix4().compose(where, rotation, new Vector3(1, 1, 1)));

  const pelvis = inFrame(at.pelvis, turn.pelvis);
  solid(pelvis, [0, 0.01, 0], [0.165, 0.125, 0.118], PELVIS);
  ball(at.waist, 0.085);
  const chest = inFrame(at.waist, turn.chest);
  solid(chest, [0, 0.24, 0.005], [0.178, 0.185, 0.122], CHEST);
  limb(at.neck, at.skull, [
    [0.001, -0.1],
    [0.05, -0.08],
    [0.046, 0.4],
    [0.05, 0.9],
    [0.001, 1],
  ]);
  const head = inFrame(at.skull, turn.head);
  solid(head, [0, 0.1, 0.018], [0.078, 0.122, 0.1], SKULL);
  for (const side of ['left', 'right'] as const) {
    const { shoulder, elbow, wrist, hip, knee, ankle } = figure.limbs[side];
    ball(shoulder, 0.064);
    limb(shoulder, elbow, UPPER_ARM);
    ball(elbow, 0.042);
    limb(elbow, wrist, FOREARM);
    ball(wrist, 0.03);
    buildHand(inFrame(wrist, figure.limbs[side].hand), side === 'left' ? 1 : -1);
    ball(hip, 0.08);
    limb(hip, knee, THIGH);
    ball(knee, 0.056);
    limb(knee, ankle, SHIN);
    ball(ankle, 0.042);
    const foot = inFrame(ankle, figure.limbs[side].foot);
    solid(foot, [0, -0.043, 0.062], [0.046, 0.036, 0.128], FOOT);
  }
}

const UPPER_ARM = [
  [0.001, 0.05],
  [0.05, 0.1],
  [0.056, 0.32],
  [0.046, 0.75],
  [0.036, 0.93],
  [0.001, 0.95],
] as const;
const FOREARM = [
  [0.001, 0.06],
  [0.036, 0.08],
  [0.047, 0.28],
  [0.036, 0.7],
  [0.026, 0.93],
  [0.001, 0.95],
] as const;
const THIGH = [
  [0.001, 0.06],
  [0.072, 0.12],
  [0.088, 0.32],
  [0.07, 0.72],
  [0.05, 0.92],
  [0.001, 0.94],
] as const;
const SHIN = [
  [0.001, 0.06],
  [0.05, 0.09],
  [0.063, 0.3],
  [0.045, 0.65],
  [0.034, 0.93],
  [0.001, 0.95],
] as const;

/** Half widths of a turned solid by height, −1..1 to 0..1; three.js's sphere is drawn out by it. */
type Profile = readonly (readonly [height: number, share: number])[];
const PELVIS: Profile = [
  [-1, 0],
  [-0.92, 0.5],
  [-0.6, 0.86],
  [-0.1, 1],
  [0.4, 0.96],
  [0.8, 0.74],
  [1, 0],
];
const CHEST: Profile = [
  [-1, 0],
  [-0.95, 0.5],
  [-0.5, 0.8],
  [0.1, 0.97],
  [0.55, 1],
  [0.85, 0.72],
  [0.97, 0.42],
  [1, 0],
];
const SKULL: Profile = [
  [-1, 0],
  [-0.95, 0.36],
  [-0.6, 0.68],
  [-0.1, 0.93],
  [0.3, 1],
  [0.65, 0.84],
  [0.9, 0.48],
  [1, 0],
];
const FOOT: Profile = [
  [-1, 0.55],
  [-0.98, 0.9],
  [-0.7, 1],
  [-0.2, 0.95],
  [0.4, 0.75],
  [0.85, 0.4],
  [1, 0],
];

function solid(
  shop: Workshop,
  at: readonly [number, number, number],
  [rx, ry, rz]: readonly [number, number, number],
  profile: Profile,
): void {
  const own = shop.within(placed(...at, { scale: [rx, ry, rz] }));
  own.turned(
    'beech',
    [0, 0, 0],
    profile.map(([height, share]) => [share, height]),
    44,
  );
}

/** A mitten with a thumb: along −y from the wrist, its palm towards the body. */
function buildHand(shop: Workshop, side: number): void {
  const palm: Profile = [
    [-1, 0],
    [-0.9, 0.5],
    [-0.4, 0.85],
    [0.2, 1],
    [0.7, 0.85],
    [1, 0.45],
  ];
  solid(shop, [0, -0.085, 0.004], [0.021, 0.085, 0.043], palm);
  shop.bar('beech', [-side * 0.006, -0.035, 0.03], [-side * 0.022, -0.095, 0.062], 0.0165, 0.012);
  shop.ball('beech', [-side * 0.022, -0.095, 0.062], 0.012, 8);
}

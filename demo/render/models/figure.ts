import { Euler, Matrix4, Quaternion, Vector3 } from 'three';

type Triple = readonly [x: number, y: number, z: number];
export type Side = 'left' | 'right';

/**
 * A pose by what a body does: where its weight is, where hands and feet are; metres, y up, looking along +z, its left
 * hand towards +x. Turns are degrees: forward (x), to its left (y), sideways to its right (z).
 */
export interface Pose {
  readonly name: string;
  /** Height of the pelvis, and share of the weight on the left foot (1: all of it). */
  readonly pelvisM: number;
  readonly onLeft: number;
  /** Where the middle of the body is when no foot carries it alone, else balance decides. */
  readonly sits?: Triple;
  readonly pelvis?: Triple;
  readonly chest?: Triple;
  readonly head?: Triple;
  readonly feet: Readonly<Record<Side, { at: Triple; turn?: Triple; knee?: Triple }>>;
  /** Hands by place, elbows towards `elbow`; `turn` is the hand's own. */
  readonly hands: Readonly<Record<Side, { at: Triple; elbow?: Triple; turn?: Triple; isFree?: boolean }>>;
}

interface Limbs {
  readonly shoulder: Vector3;
  readonly elbow: Vector3;
  readonly wrist: Vector3;
  readonly hand: Quaternion;
  readonly hip: Vector3;
  readonly knee: Vector3;
  readonly ankle: Vector3;
  readonly foot: Quaternion;
}

/** Where every joint of a posed body is. */
export interface Figure {
  readonly at: Readonly<Record<'pelvis' | 'waist' | 'neck' | 'skull', Vector3>>;
  readonly turn: Readonly<Record<'pelvis' | 'chest' | 'head', Quaternion>>;
  readonly limbs: Readonly<Record<Side, Limbs>>;
  /** Centre of mass. */
  readonly centre: Vector3;
}

/** Lengths of a body of 1.76 m, metres. */
export const BODY = {
  heightM: 1.76,
  waistM: 0.17,
  neckM: 0.47,
  skullM: 0.1,
  shoulderM: 0.2,
  shoulderUpM: 0.36,
  upperArmM: 0.3,
  forearmM: 0.265,
  hipM: 0.095,
  thighM: 0.43,
  shinM: 0.42,
  ankleM: 0.08,
} as const;

/** Shares of a body's mass. Source: de Leva, "Adjustments to Zatsiorsky-Seluyanov's segment inertia parameters", 1996, rounded. */
const MASS = {
  head: 0.07,
  chest: 0.32,
  pelvis: 0.115,
  upperArm: 0.027,
  forearm: 0.016,
  hand: 0.006,
} as const;
const LEG_MASS = { thigh: 0.142, shin: 0.043, foot: 0.013 } as const;

const turned = ([x, y, z]: Triple): Quaternion =>
  new Quaternion().setFromEuler(
    new Euler((x * Math.PI) / 180, (y * Math.PI) / 180, (z * Math.PI) / 180, 'YXZ'),
  );

const vector = ([x, y, z]: Triple): Vector3 => new Vector3(x, y, z);

/** The middle joint of a limb of two bones from `from` towards `to`, bent towards `bend`; `to` is drawn near if out of reach. */
function bent(from: Vector3, to: Vector3, first: number, second: number, bend: Vector3): [Vector3, Vector3] {
  const along = to.clone().sub(from);
  const reach = Math.min(along.length(), (first + second) * 0.999);
  along.normalize();
  const share = (first * first - second * second + reach * reach) / (2 * reach);
  const out = bend.clone().addScaledVector(along, -bend.dot(along)).normalize();
  const away = Math.sqrt(Math.max(0, first * first - share * share));
  const middle = from.clone().addScaledVector(along, share).addScaledVector(out, away);
  return [middle, from.clone().addScaledVector(along, reach)];
}

const SIDES = [
  ['left', 1],
  ['right', -1],
] as const;

function standing(pose: Pose, x: number, z: number): Figure {
  const pelvisTurn = turned(pose.pelvis ?? [0, 0, 0]);
  const chestTurn = turned(pose.chest ?? [0, 0, 0]);
  const headTurn = turned(pose.head ?? [0, 0, 0]);
  const pelvis = new Vector3(x, pose.pelvisM, z);
  const waist = pelvis.clone().add(new Vector3(0, BODY.waistM, 0).applyQuaternion(pelvisTurn));
  const neck = waist.clone().add(new Vector3(0, BODY.neckM - 0.05, 0).applyQuaternion(chestTurn));
  const skull = neck
    .clone()
    .add(new Vector3(0, BODY.skullM, 0.012).applyQuaternion(headTurn.clone().slerp(chestTurn, 0.4)));
  const centre = new Vector3();
  let mass = 0;
  const weigh = (where: Vector3, share: number) => {
    centre.addScaledVector(where, share);
    mass += share;
  };
  weigh(skull.clone().add(new Vector3(0, 0.1, 0.01).applyQuaternion(headTurn)), MASS.head);
  weigh(waist.clone().add(new Vector3(0, 0.2, 0).applyQuaternion(chestTurn)), MASS.chest);
  weigh(pelvis, MASS.pelvis);
  const limbs = SIDES.map(([side, sign]) => {
    const hand = pose.hands[side];
    const shoulder = waist
      .clone()
      .add(new Vector3(sign * BODY.shoulderM, BODY.shoulderUpM, 0).applyQuaternion(chestTurn));
    // A hand that touches nothing goes with the chest.
    const wanted = hand.isFree ? vector(hand.at).applyQuaternion(chestTurn).add(shoulder) : vector(hand.at);
    const outwards = vector(hand.elbow ?? [sign * 0.5, -0.5, -0.8]);
    const bend = hand.isFree ? outwards.applyQuaternion(chestTurn) : outwards;
    const [elbow, wrist] = bent(shoulder, wanted, BODY.upperArmM, BODY.forearmM, bend);
    const hang = new Quaternion().setFromUnitVectors(
      new Vector3(0, -1, 0),
      wrist.clone().sub(elbow).normalize(),
    );
    const hip = pelvis.clone().add(new Vector3(sign * BODY.hipM, -0.055, 0).applyQuaternion(pelvisTurn));
    const foot = pose.feet[side];
    const footTurn = turned(foot.turn ?? [0, sign * 12, 0]);
    const ankleAt = vector(foot.at).add(new Vector3(0, BODY.ankleM, 0).applyQuaternion(footTurn));
    const kneeBend = foot.knee ? vector(foot.knee) : new Vector3(0, 0, 1).applyQuaternion(footTurn);
    const [knee, ankle] = bent(hip, ankleAt, BODY.thighM, BODY.shinM, kneeBend);
    weigh(shoulder.clone().lerp(elbow, 0.45), MASS.upperArm);
    weigh(elbow.clone().lerp(wrist, 0.45), MASS.forearm);
    weigh(wrist, MASS.hand);
    weigh(hip.clone().lerp(knee, 0.42), LEG_MASS.thigh);
    weigh(knee.clone().lerp(ankle, 0.44), LEG_MASS.shin);
    weigh(ankle, LEG_MASS.foot);
    const own = hang.multiply(turned(hand.turn ?? [0, 0, 0]));
    return { shoulder, elbow, wrist, hand: own, hip, knee, ankle, foot: footTurn };
  });
  return {
    at: { pelvis, waist, neck, skull },
    turn: { pelvis: pelvisTurn, chest: chestTurn, head: headTurn },
    limbs: { left: limbs[0]!, right: limbs[1]! },
    centre: centre.divideScalar(mass),
  };
}

/** Where the weight of a pose should fall: between its feet as `onLeft` says, at the middle of each sole. */
export function supportOf({ feet, onLeft }: Pose): { x: number; z: number } {
  const sole = (side: Side, sign: number) =>
    vector(feet[side].at).add(
      new Vector3(0, 0, 0.045).applyQuaternion(turned(feet[side].turn ?? [0, sign * 12, 0])),
    );
  const spot = sole('right', -1).lerp(sole('left', 1), onLeft);
  return { x: spot.x, z: spot.z };
}

/** The figure of a pose, its pelvis moved until the weight falls where it should. */
export function figureOf(pose: Pose): Figure {
  if (pose.sits) return standing(pose, pose.sits[0], pose.sits[2]);
  const { x, z } = supportOf(pose);
  let pelvisX = x;
  let pelvisZ = z;
  for (let round = 0; round < 12; round += 1) {
    const { centre } = standing(pose, pelvisX, pelvisZ);
    pelvisX += x - centre.x;
    pelvisZ += z - centre.z;
  }
  return standing(pose, pelvisX, pelvisZ);
}

/** At the scale of a figure on a table, `heightM` tall. */
export const scaledTo = (heightM: number): Matrix4 =>
  new Matrix4().makeScale(heightM / BODY.heightM, heightM / BODY.heightM, heightM / BODY.heightM);

import { describe, expect, it } from 'vitest';
import { BODY, figureOf, type Side, supportOf } from './figure.ts';
import { POSES } from './poses.ts';

const SIDES: readonly Side[] = ['left', 'right'];

describe('poses', () => {
  it('are twenty, each with its own name', () => {
    expect(new Set(POSES.map(({ name }) => name)).size).toBe(20);
  });

  it.each(POSES.map((pose) => [pose.name, pose] as const))(
    '%s: the weight falls where it is carried',
    (_, pose) => {
      if (pose.sits) return;
      const { centre } = figureOf(pose);
      const { x, z } = supportOf(pose);
      expect(Math.hypot(centre.x - x, centre.z - z)).toBeLessThan(0.002);
    },
  );

  it.each(POSES.map((pose) => [pose.name, pose] as const))('%s: limbs keep their lengths', (_, pose) => {
    const { limbs } = figureOf(pose);
    for (const side of SIDES) {
      const { shoulder, elbow, wrist, hip, knee, ankle } = limbs[side];
      expect(shoulder.distanceTo(elbow)).toBeCloseTo(BODY.upperArmM, 4);
      expect(elbow.distanceTo(wrist)).toBeCloseTo(BODY.forearmM, 2);
      expect(hip.distanceTo(knee)).toBeCloseTo(BODY.thighM, 4);
      expect(knee.distanceTo(ankle)).toBeCloseTo(BODY.shinM, 2);
    }
  });

  it.each(POSES.map((pose) => [pose.name, pose] as const))(
    '%s: knees bend forward, feet stay out of the floor',
    (_, pose) => {
      const { limbs } = figureOf(pose);
      for (const side of SIDES) {
        const { hip, knee, ankle } = limbs[side];
        const straight = hip.clone().lerp(ankle, BODY.thighM / (BODY.thighM + BODY.shinM));
        const facing = (pose.pelvis?.[1] ?? 0) * (Math.PI / 180);
        const forward = (knee.x - straight.x) * Math.sin(facing) + (knee.z - straight.z) * Math.cos(facing);
        expect(forward).toBeGreaterThan(-0.09);
        expect(ankle.y).toBeGreaterThan(0.03);
      }
    },
  );
});

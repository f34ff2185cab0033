import { linearToSrgb } from '@miradero/core/colour';
import { angleBetween, estimateLight, LEAST_FIT, turnedAs } from '@miradero/core/light';
import { SphereGeometry } from 'three';
import { describe, expect, it } from 'vitest';
import { Camera, directionOf } from '../render/camera.ts';
import { expose } from '../render/expose.ts';
import type { Light } from '../render/light.ts';
import { MeshBuilder, placed } from '../render/mesh.ts';
import { SURFACE } from '../render/surfaces.ts';
import { Tracer } from '../render/trace.ts';

const SIDE = 96;

/** A matte ball, path-traced, with the pixels that show it. */
function matteBall(light: Light) {
  const mesh = new MeshBuilder();
  mesh.add(new SphereGeometry(1, 64, 48), SURFACE.clay, placed(0, 0, 0));
  const camera = new Camera(
    { target: [0, 0, 0], azimuthDeg: 0, elevationDeg: 0, distanceM: 20, focalMm: 240 },
    ...([SIDE, SIDE] as const),
  );
  const { matt, rest, depth } = expose(new Tracer({ mesh: mesh.build() }, light), camera, 8);
  const data = new Uint8ClampedArray(SIDE * SIDE * 4);
  const mask = new Uint8Array(SIDE * SIDE);
  for (let pixel = 0; pixel < SIDE * SIDE; pixel += 1) {
    const level = (channel: number) =>
      255 * Math.min(1, linearToSrgb(matt[pixel * 3 + channel]! + rest[pixel * 3 + channel]!));
    data.set([level(0), level(1), level(2), 255], pixel * 4);
    mask[pixel] = depth[pixel]! < 100 ? 1 : 0;
  }
  return { data, mask };
}

const light = (azimuthDeg: number, elevationDeg: number, more: Partial<Light> = {}): Light => ({
  ...{ kind: 'side', azimuthDeg, elevationDeg, radiusDeg: 0.3 },
  ...{ colour: [1.6, 1.55, 1.45], low: [0.06, 0.06, 0.07], high: [0.1, 0.11, 0.13] },
  ...more,
});

/** The demo's lights are given from the subject, as a camera in front of it has them: its right is the picture's right. */
function inPicture({ azimuthDeg, elevationDeg }: Light) {
  const [x, y, z] = directionOf(azimuthDeg, elevationDeg);
  const flat = Math.hypot(x, y);
  return {
    azimuthDeg: (Math.atan2(x, y) * 180) / Math.PI,
    elevationDeg: (Math.atan2(z, flat) * 180) / Math.PI,
  };
}

const SIX: readonly (readonly [string, Light])[] = [
  ['from the right', light(80, 15)],
  ['from the left, high', light(-60, 50)],
  ['from the front, a little aside', light(25, 20)],
  ['from behind, to the right', light(125, 20)],
  ['wide, from the left', light(-75, 30, { radiusDeg: 8 })],
  ['from above, under a bright sky', light(10, 70, { low: [0.2, 0.2, 0.22], high: [0.3, 0.32, 0.38] })],
];

describe('the light on a matte ball that was rendered', () => {
  it.each(SIX)('is found within 10°: %s', (_, one) => {
    const { data, mask } = matteBall(one);
    const found = estimateLight(turnedAs(data, mask, SIDE)!)!;
    expect(angleBetween(found, inPicture(one)), JSON.stringify([found, inPicture(one)])).toBeLessThan(10);
    expect(found.fit).toBeGreaterThan(LEAST_FIT);
  });

  it('is not claimed under a sky that is even all around', () => {
    const { data, mask } = matteBall(
      light(0, 90, { colour: [0, 0, 0], low: [0.5, 0.5, 0.5], high: [0.5, 0.5, 0.5] }),
    );
    expect(estimateLight(turnedAs(data, mask, SIDE)!)?.fit ?? 0).toBeLessThan(LEAST_FIT);
  });
});

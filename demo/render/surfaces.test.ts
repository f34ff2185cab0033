import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { describeSurface, type Place, SURFACE } from './surfaces.ts';

const metre = fc.double({ min: -6, max: 6, noNaN: true });
const fresh = (): Place => ({
  ...{ x: 0, y: 0, z: 0, worldX: 0, worldY: 0, worldZ: 0, facesUp: 0, seed: 0.3, close: true },
  ...{ r: 0, g: 0, b: 0, gloss: 0, rough: 1, glow: 0, translucent: 0, slopeX: 0, slopeY: 0, slopeZ: 0 },
});

describe.each(Object.entries(SURFACE))('%s', (_, material) => {
  it('sends back no more light than falls on it, anywhere', () => {
    fc.assert(
      fc.property(
        metre,
        metre,
        metre,
        metre,
        fc.double({ min: -1, max: 1, noNaN: true }),
        (x, y, z, up, facesUp) => {
          const place = { ...fresh(), x, y, z, worldX: x, worldY: up, worldZ: z, facesUp };
          describeSurface(material, place);
          for (const share of [place.r, place.g, place.b, place.gloss, place.translucent]) {
            expect(share).toBeGreaterThanOrEqual(0);
            expect(share).toBeLessThanOrEqual(1);
          }
          expect(place.rough).toBeGreaterThanOrEqual(0);
          expect(place.rough).toBeLessThanOrEqual(1.01);
          expect(Number.isFinite(place.slopeX + place.slopeY + place.slopeZ)).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is the same wherever it is asked again', () => {
    const ask = (): Place => {
      const place = { ...fresh(), x: 0.7, y: 0.2, z: -1.1, worldX: 3, worldY: 0.5, worldZ: -2 };
      describeSurface(material, place);
      return place;
    };
    expect(ask()).toEqual(ask());
  });
});

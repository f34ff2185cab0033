import type { Lab } from './spaces.ts';

const degrees = (radians: number): number => (radians * 180) / Math.PI;
const radians = (angleDeg: number): number => (angleDeg * Math.PI) / 180;

/** Degrees −180..180 from one hue to another, the shorter way. */
export function hueBetween(fromDeg: number, toDeg: number): number {
  const turn = (((toDeg - fromDeg) % 360) + 540) % 360;
  return turn - 180;
}

/**
 * ΔE00 of two CIELAB colours (kL = kC = kH = 1): about 1 is just seen side by side.
 * Source: G. Sharma, W. Wu and E. N. Dalal, "The CIEDE2000 color-difference formula: implementation notes,
 * supplementary test data, and mathematical observations", Color Res. Appl. 30 (2005), equations 2–22.
 */
export function deltaE2000(one: Lab, two: Lab): number {
  const meanChroma = (Math.hypot(one.a, one.b) + Math.hypot(two.a, two.b)) / 2;
  const g = 0.5 * (1 - Math.sqrt(meanChroma ** 7 / (meanChroma ** 7 + 25 ** 7)));
  const primed = ({ l, a, b }: Lab) => {
    const stretched = (1 + g) * a;
    const c = Math.hypot(stretched, b);
    return { l, c, h: c === 0 ? 0 : (degrees(Math.atan2(b, stretched)) + 360) % 360 };
  };
  const [first, second] = [primed(one), primed(two)];
  const isGrey = first.c * second.c === 0;
  const lightness = second.l - first.l;
  const chroma = second.c - first.c;
  const apart = second.h - first.h;
  const turn = isGrey ? 0 : apart > 180 ? apart - 360 : apart < -180 ? apart + 360 : apart;
  const hue = 2 * Math.sqrt(first.c * second.c) * Math.sin(radians(turn / 2));

  const meanL = (first.l + second.l) / 2;
  const meanC = (first.c + second.c) / 2;
  const sum = first.h + second.h;
  const meanH = isGrey
    ? sum
    : Math.abs(apart) <= 180
      ? sum / 2
      : sum < 360
        ? (sum + 360) / 2
        : (sum - 360) / 2;
  const t =
    1 -
    0.17 * Math.cos(radians(meanH - 30)) +
    0.24 * Math.cos(radians(2 * meanH)) +
    0.32 * Math.cos(radians(3 * meanH + 6)) -
    0.2 * Math.cos(radians(4 * meanH - 63));
  const turned = 30 * Math.exp(-(((meanH - 275) / 25) ** 2));
  const rotation = -2 * Math.sqrt(meanC ** 7 / (meanC ** 7 + 25 ** 7)) * Math.sin(radians(2 * turned));
  const ofL = lightness / (1 + (0.015 * (meanL - 50) ** 2) / Math.sqrt(20 + (meanL - 50) ** 2));
  const ofC = chroma / (1 + 0.045 * meanC);
  const ofH = hue / (1 + 0.015 * meanC * t);
  return Math.sqrt(ofL ** 2 + ofC ** 2 + ofH ** 2 + rotation * ofC * ofH);
}

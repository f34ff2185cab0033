/**
 * Where light comes from, as seen in a picture. `azimuthDeg`: in its plane, clockwise from above (0 from above, 90 from the
 * right). `elevationDeg`: 90 from the viewer, 0 from the side, negative from behind.
 */
export interface LightDirection {
  readonly azimuthDeg: number;
  readonly elevationDeg: number;
}

/** Towards the light: x to the right, y down, z to the viewer; of length 1. */
export type LightVector = readonly [x: number, y: number, z: number];

const DEG = Math.PI / 180;

export function vectorOf({ azimuthDeg, elevationDeg }: LightDirection): LightVector {
  const flat = Math.cos(elevationDeg * DEG);
  return [
    flat * Math.sin(azimuthDeg * DEG),
    -flat * Math.cos(azimuthDeg * DEG),
    Math.sin(elevationDeg * DEG),
  ];
}

/** @param vector - of any length but 0 */
export function directionOf([x, y, z]: LightVector): LightDirection {
  const length = Math.hypot(x, y, z);
  return {
    azimuthDeg: (Math.atan2(x, -y) / DEG + 360) % 360,
    elevationDeg: Math.asin(Math.max(-1, Math.min(1, z / length))) / DEG,
  };
}

/** Degrees between two directions. */
export function angleBetween(one: LightDirection, other: LightDirection): number {
  const [a, b] = [vectorOf(one), vectorOf(other)];
  const cosine = a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  return Math.acos(Math.max(-1, Math.min(1, cosine))) / DEG;
}

const SIDES = [
  'above',
  'above right',
  'the right',
  'below right',
  'below',
  'below left',
  'the left',
  'above left',
] as const;

/** "from above left, in front". */
export function wordsOfDirection({ azimuthDeg, elevationDeg }: LightDirection): string {
  if (elevationDeg > 75) return 'from the front';
  if (elevationDeg < -75) return 'from behind';
  const side = SIDES[Math.round(azimuthDeg / 45) % 8];
  const depth = elevationDeg > 20 ? ', in front' : elevationDeg < -12 ? ', behind' : '';
  return `from ${side}${depth}`;
}

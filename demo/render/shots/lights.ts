import type { Light } from '../light.ts';

/** The key light stands `azimuthDeg` about the subject; a photographer's lights are given from the camera instead. */
type Set = (azimuthDeg: number) => Light;

export const overcast: Set = (azimuthDeg) => ({
  ...{ kind: 'soft', azimuthDeg, elevationDeg: 62, radiusDeg: 26 },
  ...{ colour: [1.15, 1.16, 1.18], low: [0.52, 0.54, 0.55], high: [0.66, 0.7, 0.75] },
  ...{ fog: 0.0045, fogHeightM: 9, cloud: 0.9 },
});

export const lowSun: Set = (azimuthDeg) => ({
  ...{ kind: 'side', azimuthDeg, elevationDeg: 19, radiusDeg: 1.2 },
  ...{ colour: [3.6, 2.6, 1.55], low: [0.5, 0.5, 0.5], high: [0.2, 0.32, 0.52] },
  ...{ fog: 0.0035, fogHeightM: 8, cloud: 0.55 },
});

/** Light that only brushes a surface. */
export const raking: Set = (azimuthDeg) => ({
  ...lowSun(azimuthDeg),
  ...{ kind: 'raking', elevationDeg: 9, radiusDeg: 0.9, colour: [4, 2.75, 1.5] },
});

export const noon: Set = (azimuthDeg) => ({
  ...{ kind: 'noon', azimuthDeg, elevationDeg: 56, radiusDeg: 0.5 },
  ...{ colour: [3.1, 2.95, 2.7], low: [0.56, 0.63, 0.7], high: [0.17, 0.32, 0.6] },
  ...{ fog: 0.0014, fogHeightM: 10, cloud: 0.42 },
});

export const dawn: Set = (azimuthDeg) => ({
  ...{ kind: 'dawn', azimuthDeg, elevationDeg: 8, radiusDeg: 1.4 },
  ...{ colour: [2.5, 1.45, 0.78], low: [0.5, 0.42, 0.38], high: [0.24, 0.3, 0.42] },
  ...{ fog: 0.012, fogHeightM: 3.2, cloud: 0.45, exposure: 0.82 },
});

const MAST_LAMP = { at: [2.55, 4.24, -0.9], radiusM: 0.085, colour: [1.9, 1.15, 0.5] } as const;

export const dusk: Set = (azimuthDeg) => ({
  ...{ kind: 'dusk', azimuthDeg, elevationDeg: 4.5, radiusDeg: 1.6 },
  ...{ colour: [1.9, 0.85, 0.36], low: [0.3, 0.2, 0.19], high: [0.1, 0.14, 0.25] },
  ...{ fog: 0.0032, fogHeightM: 6, cloud: 0.5, lamps: [MAST_LAMP], exposure: 1.1 },
});

export const fogbound: Set = (azimuthDeg) => ({
  ...{ kind: 'fog', azimuthDeg, elevationDeg: 24, radiusDeg: 16 },
  ...{ colour: [0.85, 0.84, 0.8], low: [0.56, 0.56, 0.55], high: [0.6, 0.62, 0.64] },
  ...{ fog: 0.034, fogHeightM: 7, lamps: [MAST_LAMP], exposure: 0.8 },
});

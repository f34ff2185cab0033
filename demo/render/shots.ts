/** One picture to render: camera and light in the frame of the scene (metres, y up, the ferry along x). */
export interface Shot {
  readonly file: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly scene: 'ferry' | 'lantern';
  readonly eye: readonly [number, number, number];
  readonly target: readonly [number, number, number];
  /** 35 mm equivalent, mm. */
  readonly focalMm: number;
  /** Where the light comes from: degrees clockwise from the camera's back (+z), and above the horizon. */
  readonly sunAzimuthDeg: number;
  readonly sunElevationDeg: number;
  readonly sunColour: readonly [number, number, number];
  readonly skyLow: readonly [number, number, number];
  readonly skyHigh: readonly [number, number, number];
  /** Extinction per metre. */
  readonly fog: number;
  readonly lampGlow: number;
}

/** The four pictures of the first demo board. */
export const SHOTS: readonly Shot[] = [
  {
    file: 'ferry-quarter-from-above.jpg',
    name: 'Ferry, winch side from above',
    width: 1600,
    height: 1040,
    scene: 'ferry',
    eye: [-9.6, 5.2, 12.6],
    target: [-0.35, 1.05, -0.4],
    focalMm: 38,
    sunAzimuthDeg: 62,
    sunElevationDeg: 27,
    sunColour: [1.3, 0.96, 0.62],
    skyLow: [0.5, 0.52, 0.51],
    skyHigh: [0.24, 0.35, 0.48],
    fog: 0.004,
    lampGlow: 0.5,
  },
  {
    file: 'dawn-fog-wide.jpg',
    name: 'Dawn, fog coming in',
    width: 1600,
    height: 900,
    scene: 'ferry',
    eye: [4.5, 1.9, 21.5],
    target: [0.6, 2.4, 0],
    focalMm: 38,
    sunAzimuthDeg: 188,
    sunElevationDeg: 13,
    sunColour: [1.0, 0.6, 0.32],
    skyLow: [0.4, 0.34, 0.29],
    skyHigh: [0.25, 0.28, 0.33],
    fog: 0.026,
    lampGlow: 1,
  },
  {
    file: 'chain-wheel-raking.jpg',
    name: 'Chain wheel, raking light',
    width: 1200,
    height: 1500,
    scene: 'ferry',
    eye: [-3.6, 2.5, 5.4],
    target: [-0.5, 1.68, 0],
    focalMm: 46,
    sunAzimuthDeg: 285,
    sunElevationDeg: 20,
    sunColour: [1.35, 0.86, 0.5],
    skyLow: [0.5, 0.5, 0.5],
    skyHigh: [0.24, 0.33, 0.45],
    fog: 0.012,
    lampGlow: 0.7,
  },
  {
    file: 'storm-lantern-dusk.jpg',
    name: 'Storm lantern at dusk',
    width: 1200,
    height: 1500,
    scene: 'lantern',
    eye: [0.58, 0.53, 1.2],
    target: [0.0, 0.285, 0.02],
    focalMm: 62,
    sunAzimuthDeg: -60,
    sunElevationDeg: 36,
    sunColour: [0.22, 0.26, 0.33],
    skyLow: [0.12, 0.13, 0.145],
    skyHigh: [0.12, 0.15, 0.2],
    fog: 0,
    lampGlow: 1.5,
  },
];

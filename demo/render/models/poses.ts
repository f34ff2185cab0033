import type { Pose } from './figure.ts';

const HANGING = {
  left: { at: [0.06, -0.55, 0.04], isFree: true },
  right: { at: [-0.06, -0.55, 0.04], isFree: true },
} as const;

/** What people do on a ferry; each stands, sits or pulls in balance. */
export const POSES: readonly Pose[] = [
  {
    ...{ name: 'waiting, weight on one leg', pelvisM: 0.925, onLeft: 0.94 },
    ...{ pelvis: [2, -10, 7], chest: [-4, 6, -7], head: [8, 26, 4] },
    feet: { left: { at: [0.06, 0, 0], turn: [0, 8, 0] }, right: { at: [-0.17, 0, 0.1], turn: [0, -34, 0] } },
    hands: {
      left: { at: [0.1, -0.54, 0.03], isFree: true },
      right: { at: [-0.13, -0.3, 0.06], elbow: [-1, 0, -0.3], isFree: true },
    },
  },
  {
    ...{ name: 'hauling on the chain', pelvisM: 0.74, onLeft: 0.18 },
    ...{ pelvis: [-12, 24, 0], chest: [-26, 12, 0], head: [-12, -4, 0] },
    feet: {
      left: { at: [0.1, 0, 0.42], turn: [-12, 6, 0] },
      right: { at: [-0.14, 0, -0.34], turn: [0, -32, 0] },
    },
    hands: {
      left: { at: [0.02, 1.02, 0.6], elbow: [1, -0.6, 0] },
      right: { at: [-0.06, 1.04, 0.4], elbow: [-1, -0.5, -0.3] },
    },
  },
  {
    ...{ name: 'turning the crank, low', pelvisM: 0.7, onLeft: 0.6 },
    ...{ pelvis: [26, 0, 0], chest: [58, -8, 0], head: [24, -6, 0] },
    feet: {
      left: { at: [0.17, 0, 0.16], turn: [0, 16, 0] },
      right: { at: [-0.16, 0, -0.2], turn: [0, -20, 0] },
    },
    hands: {
      left: { at: [0.08, 0.66, 0.66], elbow: [1, 0.4, -0.4] },
      right: { at: [-0.1, 0.68, 0.64], elbow: [-1, 0.4, -0.4] },
    },
  },
  {
    ...{ name: 'turning the crank, high', pelvisM: 0.9, onLeft: 0.72 },
    ...{ pelvis: [4, 6, 0], chest: [4, 10, 0], head: [-16, 0, 0] },
    feet: {
      left: { at: [0.12, 0, 0.18], turn: [0, 6, 0] },
      right: { at: [-0.15, 0.02, -0.24], turn: [24, -16, 0] },
    },
    hands: {
      left: { at: [0.08, 1.56, 0.46], elbow: [1, -0.3, 0.2] },
      right: { at: [-0.08, 1.58, 0.45], elbow: [-1, -0.3, 0.2] },
    },
  },
  {
    ...{ name: 'lifting the lantern to look', pelvisM: 0.92, onLeft: 0.4 },
    ...{ pelvis: [-2, 8, -3], chest: [-6, 16, 5], head: [-14, 10, 4] },
    feet: {
      left: { at: [0.13, 0, 0.06], turn: [0, 22, 0] },
      right: { at: [-0.12, 0, -0.08], turn: [0, -14, 0] },
    },
    hands: {
      left: { at: [0.16, -0.5, 0.12], isFree: true },
      right: { at: [-0.12, 1.66, 0.3], elbow: [-1, -0.4, 0] },
    },
  },
  {
    ...{ name: 'bearing a crate', pelvisM: 0.86, onLeft: 0.55 },
    ...{ pelvis: [-6, 0, 0], chest: [-15, 0, 0], head: [4, 0, 0] },
    feet: {
      left: { at: [0.14, 0, 0.1], turn: [0, 18, 0] },
      right: { at: [-0.14, 0, -0.06], turn: [0, -18, 0] },
    },
    hands: {
      left: { at: [0.2, 1.0, 0.4], elbow: [1, -0.6, -0.3], turn: [-60, 0, 0] },
      right: { at: [-0.2, 1.0, 0.4], elbow: [-1, -0.6, -0.3], turn: [-60, 0, 0] },
    },
  },
  {
    ...{ name: 'lifting from the deck', pelvisM: 0.44, onLeft: 0.5 },
    ...{ pelvis: [34, 0, 0], chest: [38, 0, 0], head: [-6, 0, 0] },
    feet: {
      left: { at: [0.2, 0, 0.04], turn: [0, 26, 0] },
      right: { at: [-0.2, 0, -0.02], turn: [0, -26, 0] },
    },
    hands: {
      left: { at: [0.14, 0.34, 0.42], elbow: [1, 0.2, -0.3] },
      right: { at: [-0.14, 0.34, 0.42], elbow: [-1, 0.2, -0.3] },
    },
  },
  {
    ...{ name: 'walking into the wind', pelvisM: 0.875, onLeft: 0.85 },
    ...{ pelvis: [10, -14, 2], chest: [22, 14, -3], head: [14, 0, 0] },
    feet: {
      left: { at: [0.07, 0, 0.28], turn: [0, 4, 0] },
      right: { at: [-0.08, 0.09, -0.42], turn: [44, -4, 0] },
    },
    hands: {
      left: { at: [0.02, -0.42, -0.3], elbow: [0.4, 0, -1], isFree: true },
      right: { at: [0.02, -0.3, 0.34], elbow: [-0.6, -0.8, -0.4], isFree: true },
    },
  },
  {
    ...{ name: 'sitting on a crate, tired', pelvisM: 0.5, onLeft: 0.5, sits: [0, 0, -0.06] },
    ...{ pelvis: [6, 0, 0], chest: [40, 4, 0], head: [40, 8, 0] },
    feet: {
      left: { at: [0.2, 0, 0.42], turn: [0, 16, 0] },
      right: { at: [-0.18, 0, 0.34], turn: [0, -16, 0] },
    },
    hands: {
      left: { at: [0.14, 0.6, 0.5], elbow: [1, 0, -0.3], turn: [0, 0, 0] },
      right: { at: [-0.12, 0.58, 0.48], elbow: [-1, 0, -0.3] },
    },
  },
  {
    ...{ name: 'kneeling to tie a knot', pelvisM: 0.5, onLeft: 0.62 },
    ...{ pelvis: [8, 8, 0], chest: [34, 4, 0], head: [26, -4, 0] },
    feet: {
      left: { at: [0.13, 0, 0.24], turn: [0, 10, 0] },
      right: { at: [-0.13, 0.1, -0.36], turn: [68, -6, 0], knee: [0, -0.6, 1] },
    },
    hands: {
      left: { at: [0.03, 0.5, 0.5], elbow: [1, -0.1, 0] },
      right: { at: [-0.07, 0.47, 0.48], elbow: [-1, 0, 0] },
    },
  },
  {
    ...{ name: 'throwing a line', pelvisM: 0.86, onLeft: 0.2 },
    ...{ pelvis: [-4, -30, -3], chest: [-14, -58, 8], head: [-4, 4, 0] },
    feet: {
      left: { at: [0.1, 0, 0.36], turn: [-14, 6, 0] },
      right: { at: [-0.12, 0, -0.3], turn: [0, -62, 0] },
    },
    hands: {
      left: { at: [0.14, 1.24, 0.62], elbow: [0.6, -1, 0] },
      right: { at: [-0.28, 1.36, -0.52], elbow: [-0.6, -1, -0.4] },
    },
  },
  {
    ...{ name: 'leaning on the rail', pelvisM: 0.87, onLeft: 0.8 },
    ...{ pelvis: [14, 10, 5], chest: [44, 10, -3], head: [6, 20, 0] },
    feet: {
      left: { at: [0.1, 0, -0.02], turn: [0, 12, 0] },
      right: { at: [-0.06, 0.05, -0.24], turn: [38, -20, 0] },
    },
    hands: {
      left: { at: [0.16, 1.02, 0.5], elbow: [1, -0.4, 0.2] },
      right: { at: [-0.1, 1.02, 0.54], elbow: [-1, -0.4, 0.1] },
    },
  },
  {
    ...{ name: 'poling off the bank', pelvisM: 0.8, onLeft: 0.72 },
    ...{ pelvis: [20, 22, 0], chest: [40, 30, 4], head: [-12, 4, 0] },
    feet: {
      left: { at: [0.14, 0, 0.34], turn: [0, 16, 0] },
      right: { at: [-0.12, 0.05, -0.4], turn: [36, -14, 0] },
    },
    hands: {
      left: { at: [0.1, 1.26, 0.72], elbow: [1, -0.4, 0] },
      right: { at: [-0.02, 0.92, 0.6], elbow: [-1, 0, -0.3] },
    },
  },
  {
    ...{ name: 'looking out, hand over the eyes', pelvisM: 0.925, onLeft: 0.3 },
    ...{ pelvis: [0, -8, -5], chest: [-4, -14, 6], head: [-6, -10, 0] },
    feet: { left: { at: [0.16, 0, 0.08], turn: [0, 26, 0] }, right: { at: [-0.08, 0, 0], turn: [0, -8, 0] } },
    hands: {
      left: { at: [0.11, -0.32, 0.1], elbow: [1, 0, -0.4], isFree: true },
      right: { at: [-0.1, 1.62, 0.16], elbow: [-1, 0.1, 0.2], turn: [0, 0, 0] },
    },
  },
  {
    ...{ name: 'slipping on the wet deck', pelvisM: 0.74, onLeft: 0.12 },
    ...{ pelvis: [-16, 0, 8], chest: [-4, -18, 12], head: [14, 0, -10] },
    feet: {
      left: { at: [0.22, 0.1, 0.5], turn: [-30, 10, 0] },
      right: { at: [-0.1, 0, -0.02], turn: [0, -18, 0] },
    },
    hands: {
      left: { at: [0.44, 0.1, 0.16], elbow: [0, -1, -0.2], isFree: true },
      right: { at: [-0.42, 0.18, 0.06], elbow: [0, -1, -0.2], isFree: true },
    },
  },
  {
    ...{ name: 'pushing the jammed wheel', pelvisM: 0.76, onLeft: 0.3 },
    ...{ pelvis: [30, -8, 0], chest: [48, -10, 0], head: [-2, 0, 0] },
    feet: {
      left: { at: [0.12, 0, 0.24], turn: [0, 4, 0] },
      right: { at: [-0.12, 0.08, -0.5], turn: [46, -6, 0] },
    },
    hands: {
      left: { at: [0.16, 1.1, 0.84], elbow: [1, -0.4, -0.2], turn: [-70, 0, 0] },
      right: { at: [-0.16, 1.22, 0.84], elbow: [-1, -0.4, -0.2], turn: [-70, 0, 0] },
    },
  },
  {
    ...{ name: 'climbing onto the ramp', pelvisM: 0.96, onLeft: 0.9 },
    ...{ pelvis: [16, 0, 0], chest: [30, -6, 0], head: [-8, 0, 0] },
    feet: {
      left: { at: [0.1, 0.26, 0.22], turn: [0, 6, 0] },
      right: { at: [-0.1, 0.03, -0.26], turn: [34, -8, 0] },
    },
    hands: {
      left: { at: [0.14, 0.93, 0.42], elbow: [1, 0, -0.5], turn: [-20, 0, 0] },
      right: { at: [-0.12, -0.45, 0.2], isFree: true },
    },
  },
  {
    ...{ name: 'coiling rope', pelvisM: 0.91, onLeft: 0.62 },
    ...{ pelvis: [4, 4, 3], chest: [10, -12, -4], head: [34, -10, 0] },
    feet: { left: { at: [0.1, 0, 0], turn: [0, 14, 0] }, right: { at: [-0.16, 0, 0.06], turn: [0, -24, 0] } },
    hands: {
      left: { at: [0.12, 1.08, 0.34], elbow: [1, -0.6, -0.2] },
      right: { at: [-0.26, 1.2, 0.32], elbow: [-1, -0.4, -0.2] },
    },
  },
  {
    ...{ name: 'calling across the water', pelvisM: 0.91, onLeft: 0.7 },
    ...{ pelvis: [4, 0, 0], chest: [-10, 0, 0], head: [-20, 0, 0] },
    feet: {
      left: { at: [0.1, 0, 0.18], turn: [0, 8, 0] },
      right: { at: [-0.13, 0.02, -0.18], turn: [18, -18, 0] },
    },
    hands: {
      left: { at: [0.09, 1.53, 0.16], elbow: [1, -0.3, 0.4] },
      right: { at: [-0.09, 1.53, 0.16], elbow: [-1, -0.3, 0.4] },
    },
  },
  {
    ...{ name: 'standing at ease', pelvisM: 0.93, onLeft: 0.5 },
    ...{ pelvis: [0, 0, 0], chest: [-2, 0, 0], head: [2, 0, 0] },
    feet: { left: { at: [0.12, 0, 0], turn: [0, 12, 0] }, right: { at: [-0.12, 0, 0], turn: [0, -12, 0] } },
    hands: HANGING,
  },
];

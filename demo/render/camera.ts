/** Three numbers: x, y (up), z in metres, or a unit direction. */
export type Point = readonly [x: number, y: number, z: number];

const DEGREE = Math.PI / 180;
/** Longest side of the frame that a 35-mm-equivalent focal length refers to. */
const FRAME_MM = 36;

/**
 * Where a picture is taken from. At azimuth 0 the camera looks along −z at the front of its subject; azimuth grows towards +x,
 * elevation upwards. `focalMm` is the 35-mm equivalent over the longest side; `rollDeg` turns the picture clockwise.
 */
export interface Pose {
  readonly target: Point;
  readonly azimuthDeg: number;
  readonly elevationDeg: number;
  readonly distanceM: number;
  readonly focalMm: number;
  readonly rollDeg?: number;
  /** Radius of the lens opening, metres; sharp at the target unless `focusM` says otherwise. */
  readonly apertureM?: number;
  readonly focusM?: number;
}

export function directionOf(azimuthDeg: number, elevationDeg: number): Point {
  const azimuth = azimuthDeg * DEGREE;
  const elevation = elevationDeg * DEGREE;
  return [
    Math.sin(azimuth) * Math.cos(elevation),
    Math.sin(elevation),
    Math.cos(azimuth) * Math.cos(elevation),
  ];
}

export class Camera {
  readonly eye: Point;
  readonly forward: Point;
  readonly right: Point;
  readonly up: Point;
  /** Pixels of a tangent of 1. */
  readonly focalPx: number;

  readonly pose: Pose;
  readonly width: number;
  readonly height: number;

  constructor(pose: Pose, width: number, height: number) {
    this.pose = pose;
    this.width = width;
    this.height = height;
    const away = directionOf(pose.azimuthDeg, pose.elevationDeg);
    this.eye = pose.target.map((at, axis) => at + away[axis]! * pose.distanceM) as unknown as Point;
    this.forward = [-away[0], -away[1], -away[2]];
    const azimuth = pose.azimuthDeg * DEGREE;
    const level: Point = [Math.cos(azimuth), 0, -Math.sin(azimuth)];
    const [fx, fy, fz] = this.forward;
    const [lx, ly, lz] = level;
    const above: Point = [ly * fz - lz * fy, lz * fx - lx * fz, lx * fy - ly * fx];
    const cos = Math.cos((pose.rollDeg ?? 0) * DEGREE);
    const sin = Math.sin((pose.rollDeg ?? 0) * DEGREE);
    this.right = level.map((at, axis) => at * cos + above[axis]! * sin) as unknown as Point;
    this.up = level.map((at, axis) => above[axis]! * cos - at * sin) as unknown as Point;
    this.focalPx = (pose.focalMm / FRAME_MM) * Math.max(width, height);
  }

  /** Picture pixels of a point (origin at the top left corner of the picture); undefined behind the camera. */
  project(point: Point): { x: number; y: number; depth: number } | undefined {
    const dx = point[0] - this.eye[0];
    const dy = point[1] - this.eye[1];
    const dz = point[2] - this.eye[2];
    const depth = dx * this.forward[0] + dy * this.forward[1] + dz * this.forward[2];
    if (depth <= 0) return undefined;
    const right = dx * this.right[0] + dy * this.right[1] + dz * this.right[2];
    const up = dx * this.up[0] + dy * this.up[1] + dz * this.up[2];
    return {
      x: this.width / 2 + (this.focalPx * right) / depth,
      y: this.height / 2 - (this.focalPx * up) / depth,
      depth,
    };
  }

  /** Where lines along a world direction meet in the picture; undefined if they stay parallel in it. */
  vanishingPoint(direction: Point): { x: number; y: number } | undefined {
    const depth =
      direction[0] * this.forward[0] + direction[1] * this.forward[1] + direction[2] * this.forward[2];
    if (Math.abs(depth) < 1e-9) return undefined;
    const right = direction[0] * this.right[0] + direction[1] * this.right[1] + direction[2] * this.right[2];
    const up = direction[0] * this.up[0] + direction[1] * this.up[1] + direction[2] * this.up[2];
    return {
      x: this.width / 2 + (this.focalPx * right) / depth,
      y: this.height / 2 - (this.focalPx * up) / depth,
    };
  }
}

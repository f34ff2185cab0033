import { normalAzimuth } from '../geometry/index.ts';
import { boxAround, type ModelBox, middleOf, radiusOf, type Spot } from './extent.ts';

/** Where a thing is seen from, or lit from: degrees. */
export interface Direction {
  /** −180 … 180, 0 in front. */
  readonly azimuthDeg: number;
  /** −90 … 90, 0 level. */
  readonly elevationDeg: number;
}

/** A plane that cuts a model: what lies beyond it is left out. */
export interface Section {
  /** The model's own: x towards its left hand, y upward, z towards its front. */
  readonly axis: 'x' | 'y' | 'z';
  /** 0..1 of its extent along the axis. */
  readonly at: number;
  /** Leaves out what lies before the plane in place of what lies beyond it. */
  readonly isOther: boolean;
}

/**
 * How a model is looked at. The view's azimuth is 0 at the model's front, and grows towards its left hand; the light's is
 * as the viewer sees it: 0 from behind them, 90 from their right. The light's elevation is above the horizon.
 */
export interface ModelView extends Direction {
  /** Focal length of a 35-mm camera that shows as much; null for parallel lines of sight. */
  readonly lensMm: number | null;
  /** How much larger it is seen than where its sphere fills the shorter side. */
  readonly nearer: number;
  /** What is in the middle, from the model's own middle, in radii of its sphere: to the right and upward as it is seen. */
  readonly aside: { readonly right: number; readonly up: number };
  readonly light: Direction;
  /** In plain grey, without its own surface. */
  readonly isPlain: boolean;
  readonly section: Section | undefined;
}

export const NEARER = { least: 0.25, most: 40 } as const;
export const LENS_MM = { least: 8, most: 2_000 } as const;

export const FIRST_VIEW: ModelView = {
  ...{ azimuthDeg: 40, elevationDeg: 20, lensMm: 50, nearer: 1, aside: { right: 0, up: 0 } },
  ...{ light: { azimuthDeg: -40, elevationDeg: 45 }, isPlain: false, section: undefined },
};

/** A drag over the whole shorter side of the picture turns by so much. */
const TURN_DEG = 180;
/** Beyond this from the middle light comes from behind, straight from behind at twice this; of half the shorter side. */
const BEHIND_FROM = 1;

const DEG = Math.PI / 180;
const clamp = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value));

/** The view after the model was pulled. @param right, down - of the picture's shorter side */
export function turnedBy(view: ModelView, right: number, down: number): ModelView {
  return {
    ...view,
    azimuthDeg: normalAzimuth(view.azimuthDeg - right * TURN_DEG),
    elevationDeg: clamp(view.elevationDeg + down * TURN_DEG, -90, 90),
  };
}

export const turnedTo = (view: ModelView, { azimuthDeg, elevationDeg }: Direction): ModelView => ({
  ...view,
  azimuthDeg: normalAzimuth(azimuthDeg),
  elevationDeg: clamp(elevationDeg, -90, 90),
});

export const nearerBy = (view: ModelView, factor: number): ModelView => ({
  ...view,
  nearer: clamp(view.nearer * factor, NEARER.least, NEARER.most),
});

/** The view after the model was pushed aside. @param right, down - of the picture's shorter side */
export function pushedBy(view: ModelView, right: number, down: number): ModelView {
  const { aside, nearer } = view;
  const radii = 2 / nearer;
  const most = 2;
  return {
    ...view,
    aside: {
      right: clamp(aside.right - right * radii, -most, most),
      up: clamp(aside.up + down * radii, -most, most),
    },
  };
}

/** Unit vector towards a direction: x to the left hand of what is looked at, y up, z to its front. */
export function towards({ azimuthDeg, elevationDeg }: Direction): readonly [x: number, y: number, z: number] {
  const flat = Math.cos(elevationDeg * DEG);
  return [flat * Math.sin(azimuthDeg * DEG), Math.sin(elevationDeg * DEG), flat * Math.cos(azimuthDeg * DEG)];
}

/** Direction of a vector of any length. */
export function directionTo([x, y, z]: readonly [number, number, number]): Direction {
  return {
    azimuthDeg: x === 0 && z === 0 ? 0 : Math.atan2(x, z) / DEG,
    elevationDeg: Math.atan2(y, Math.hypot(x, z)) / DEG,
  };
}

/** Where the light comes from, in the model's own directions. */
export const lightTowards = ({ azimuthDeg, light }: ModelView): readonly [number, number, number] =>
  towards({ azimuthDeg: azimuthDeg + light.azimuthDeg, elevationDeg: light.elevationDeg });

/**
 * The view with its light taken to a point of the picture, as if it lay there on a ball around the model: from where the
 * viewer stands in the middle, from the side at the rim, from behind beyond it.
 *
 * @param right, down - from the middle, of half the picture's shorter side
 */
export function litFrom(view: ModelView, right: number, down: number): ModelView {
  const r = Math.hypot(right, down);
  const [x, y] = r === 0 ? [0, 0] : [right / r, -down / r];
  // On the front half of the ball up to the rim, on the back half beyond it.
  const angle =
    r <= BEHIND_FROM
      ? Math.asin(r / BEHIND_FROM)
      : Math.PI / 2 + Math.min(1, r - BEHIND_FROM) * (Math.PI / 2);
  const [sx, sy, sz] = [x * Math.sin(angle), y * Math.sin(angle), Math.cos(angle)];
  // The viewer looks down by the view's elevation: back to the horizon.
  const tilt = view.elevationDeg * DEG;
  const up = sy * Math.cos(tilt) + sz * Math.sin(tilt);
  const front = sz * Math.cos(tilt) - sy * Math.sin(tilt);
  return { ...view, light: directionTo([sx, up, front]) };
}

/** Diagonal of a 35-mm camera's frame, mm; lenses are compared by it. Source: CIPA DCG-001, 3.4. */
const FRAME_DIAGONAL_MM = Math.hypot(36, 24);

/** Angle that a picture's height takes, degrees. @param width, height - of the picture, any unit */
export function verticalFieldDeg(lensMm: number, width: number, height: number): number {
  const share = height / Math.hypot(width, height);
  return (2 * Math.atan((FRAME_DIAGONAL_MM / 2 / lensMm) * share)) / DEG;
}

/** Where the camera stands, and what it shows. Units of the model. */
export interface CameraPlace {
  readonly position: readonly [number, number, number];
  readonly target: readonly [number, number, number];
  /** Seen as upward. */
  readonly up: readonly [number, number, number];
  readonly near: number;
  readonly far: number;
  /** Degrees; null for parallel lines of sight. */
  readonly verticalDeg: number | null;
  /** Half of what the picture's height shows at the target. */
  readonly halfHeight: number;
}

/** The camera of a view. At any lens it stands so far away that as much is seen of what is in the middle. */
export function cameraOf(view: ModelView, box: ModelBox, width: number, height: number): CameraPlace {
  const radius = radiusOf(box);
  const { aside, nearer, lensMm } = view;
  const out = towards(view);
  const side = Math.cos(view.azimuthDeg * DEG);
  const right = [side, 0, -Math.sin(view.azimuthDeg * DEG)] as const;
  const tilt = view.elevationDeg * DEG;
  const up = [
    -Math.sin(tilt) * Math.sin(view.azimuthDeg * DEG),
    Math.cos(tilt),
    -Math.sin(tilt) * Math.cos(view.azimuthDeg * DEG),
  ] as const;
  const middle = middleOf(box);
  const target = [0, 1, 2].map(
    (axis) => middle[axis]! + radius * (aside.right * right[axis]! + aside.up * up[axis]!),
  ) as unknown as [number, number, number];
  const verticalDeg = lensMm === null ? null : verticalFieldDeg(lensMm, width, height);
  // A sphere is seen a little larger than its plane section: from nearby it covers more than its radius.
  const half = (radius / nearer) * Math.max(1, height / width);
  const angle = ((verticalDeg ?? 0) / 2) * DEG;
  const narrow = verticalDeg === null ? 0 : Math.min(angle, Math.atan((Math.tan(angle) * width) / height));
  const distance = verticalDeg === null ? radius * 4 : radius / nearer / Math.sin(narrow);
  const reach = radius * (1 + Math.hypot(aside.right, aside.up));
  return {
    position: [0, 1, 2].map((axis) => target[axis]! + out[axis]! * distance) as unknown as [
      number,
      number,
      number,
    ],
    ...{ target, up, verticalDeg },
    near: verticalDeg === null ? distance - reach * 1.5 : Math.max(distance / 500, distance - reach * 1.5),
    far: distance + reach * 1.5,
    halfHeight: verticalDeg === null ? half : distance * Math.tan(angle),
  };
}

/** How far points of a model reach in the picture of a view: 1 is its edge. @param width, height - of the picture */
export function reachOf(view: ModelView, points: readonly Spot[], width: number, height: number): number {
  const { position, target, up, verticalDeg, halfHeight } = cameraOf(view, boxAround(points), width, height);
  const out = towards(view);
  const away = Math.hypot(position[0] - target[0], position[1] - target[1], position[2] - target[2]);
  const right: Spot = [
    up[1] * out[2] - up[2] * out[1],
    up[2] * out[0] - up[0] * out[2],
    up[0] * out[1] - up[1] * out[0],
  ];
  const along = (point: Spot, axis: Spot) =>
    (point[0] - target[0]) * axis[0] + (point[1] - target[1]) * axis[1] + (point[2] - target[2]) * axis[2];
  let reach = 0;
  for (const point of points) {
    const depth = away - along(point, out);
    // What lies behind the camera is out of every picture.
    const scale = verticalDeg === null ? 1 : depth > 0 ? away / depth : Number.MAX_SAFE_INTEGER;
    reach = Math.max(
      reach,
      Math.abs(along(point, right) * scale) / (halfHeight * (width / height)),
      Math.abs(along(point, up) * scale) / halfHeight,
    );
  }
  return reach;
}

/** Share of the picture that a model takes where it is seen whole. */
const FILLED = 0.94;
const TURNS = 24;

/** The view from as near as it can be with the model whole in it, from wherever around it one looks at this height. */
export function wholeInView(
  view: ModelView,
  points: readonly Spot[],
  width: number,
  height: number,
): ModelView {
  let nearer = 1;
  const centred = { ...view, aside: { right: 0, up: 0 } };
  // How large it is seen goes about with how near it is: a few steps settle it.
  for (let step = 0; step < 6; step += 1) {
    const reach = Math.max(
      ...Array.from({ length: TURNS }, (_, turn) =>
        reachOf({ ...centred, nearer, azimuthDeg: (turn * 360) / TURNS }, points, width, height),
      ),
    );
    nearer *= FILLED / reach;
  }
  return { ...centred, nearer: clamp(nearer, NEARER.least, NEARER.most) };
}

/** Views all around a model, the one that is given first. @param count - 2 or more */
export const turnOf = (view: ModelView, count: number): ModelView[] =>
  Array.from({ length: count }, (_, index) =>
    turnedTo(view, { ...view, azimuthDeg: view.azimuthDeg + (index * 360) / count }),
  );

/** What a picture of a model records of how it was taken; the same words as the view of a subject has. */
export interface TakenView {
  readonly azimuthDeg: number;
  readonly elevationDeg: number;
  readonly lightAzimuthDeg: number;
  readonly lightElevationDeg: number;
  readonly lensMm: number | null;
}

const tenth = (value: number): number => Math.round(value * 10) / 10 + 0;

/** Figures of a view, to a tenth of a degree. */
export const takenView = ({ azimuthDeg, elevationDeg, light, lensMm }: ModelView): TakenView => ({
  azimuthDeg: tenth(normalAzimuth(azimuthDeg)),
  elevationDeg: tenth(elevationDeg),
  lightAzimuthDeg: tenth(normalAzimuth(light.azimuthDeg)),
  lightElevationDeg: tenth(light.elevationDeg),
  lensMm,
});

/** Views that have a name of their own. */
export const NAMED_VIEWS = [
  ...([['front', 0, 0] as const, ['left side', 90, 0] as const, ['back', 180, 0] as const] as const),
  ...([
    ['right side', -90, 0] as const,
    ['from above', 0, 90] as const,
    ['from below', 0, -90] as const,
  ] as const),
] as const;

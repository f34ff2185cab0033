import {
  linearToSrgb,
  luminanceToMunsellValue,
  munsellValueToLuminance,
  srgbToLinear,
} from '@miradero/core/colour';
import sharp from 'sharp';
import type { Truth } from '../../truth/truth.ts';
import { Camera, directionOf } from '../camera.ts';
import { stageOf } from '../master.ts';
import { noise } from '../noise.ts';
import { Sight } from '../sight.ts';
import { SURFACE, type SurfaceName } from '../surfaces.ts';
import { fileOf, PICTURES, shotNamed, writeTruth } from './pictures.ts';

/** Over which picture the drawings are made, and where the ferry's foot is: errors turn and widen about it. */
const VIEW = 'ferry-045-soft';
const SIZE = { width: 1600, height: 1040 } as const;

/** The illustrator's flat colours, 0..255, in light; in shadow they go down two value steps and cooler. */
const FLATS: Partial<Record<SurfaceName, readonly [number, number, number]>> = {
  hull: [104, 142, 132],
  plank: [168, 146, 118],
  siding: [226, 209, 170],
  roof: [176, 104, 66],
  iron: [118, 78, 60],
  rope: [204, 180, 132],
  pane: [62, 76, 82],
  dark: [44, 46, 48],
  redLead: [190, 74, 52],
  whitewash: [234, 228, 214],
  tyre: [52, 52, 54],
  lampGlass: [250, 226, 160],
  reed: [182, 172, 120],
  plume: [170, 148, 116],
  thicket: [150, 146, 104],
  far: [164, 170, 160],
};
const SKY = [226, 226, 218] as const;
const WATER = [150, 160, 152] as const;
const PAPER = [241, 237, 226] as const;
const LINE = [46, 42, 44] as const;

interface Seen {
  readonly part: Int32Array;
  readonly distance: Float32Array;
  readonly colour: Uint8Array;
}

/** What a draughtsman reads off the view: which part is where, how far, and its flat colour. */
function read(camera: Camera, sight: Sight, sun: readonly [number, number, number]): Seen {
  const { width, height } = camera;
  const part = new Int32Array(width * height);
  const distance = new Float32Array(width * height);
  const colour = new Uint8Array(width * height * 3);
  const names = Object.keys(SURFACE) as SurfaceName[];
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const at = y * width + x;
      const seen = sight.look(camera, x + 0.5, y + 0.5);
      const below = waterDistance(camera, x + 0.5, y + 0.5);
      if (below !== undefined && below < (seen?.distance ?? Infinity)) {
        part[at] = -2;
        distance[at] = below;
        colour.set(WATER, at * 3);
        continue;
      }
      if (!seen) {
        part[at] = -1;
        distance[at] = 1e4;
        colour.set(SKY, at * 3);
        continue;
      }
      part[at] = seen.part;
      distance[at] = seen.distance;
      const flat = FLATS[names[seen.material]!] ?? PAPER;
      const isLit = sight.isLit(sun);
      for (let c = 0; c < 3; c += 1) colour[at * 3 + c] = isLit ? flat[c]! : flat[c]! * SHADOW[c]!;
    }
  }
  return { part, distance, colour };
}

const SHADOW = [0.62, 0.64, 0.7] as const;

function waterDistance(camera: Camera, x: number, y: number): number | undefined {
  const { forward, right, up, focalPx, eye, width, height } = camera;
  const d = [0, 1, 2].map(
    (axis) => forward[axis]! * focalPx + right[axis]! * (x - width / 2) + up[axis]! * (height / 2 - y),
  ) as [number, number, number];
  if (d[1] >= 0) return undefined;
  return (-eye[1] / d[1]) * Math.hypot(...d);
}

/** Strength of the drawn line at a pixel, 0..1: where parts end or depth leaps. */
function lineAt({ part, distance }: Seen, width: number, height: number, x: number, y: number): number {
  const at = y * width + x;
  let strength = 0;
  for (const [dx, dy] of [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
  ] as const) {
    const [ox, oy] = [x + dx, y + dy];
    if (ox < 0 || oy < 0 || ox >= width || oy >= height) continue;
    const other = oy * width + ox;
    const leap = Math.abs(distance[other]! - distance[at]!) / Math.min(distance[other]!, distance[at]!);
    if (leap > 0.02) strength = Math.max(strength, 0.9);
    else if (part[other] !== part[at]) strength = Math.max(strength, 0.5);
  }
  // Reeds far off are colour, not line.
  return distance[at]! > 36 ? strength * 0.16 : strength;
}

/** The drawing as it should be: RGB, three bytes a pixel. */
function draw(): Buffer {
  const { width, height } = SIZE;
  const shot = shotNamed(VIEW);
  const { scene, bvh } = stageOf(shot);
  const sight = new Sight(scene.mesh, bvh);
  const camera = new Camera(shot.pose, width, height);
  const seen = read(camera, sight, directionOf(shot.pose.azimuthDeg - 62, 44));
  const out = Buffer.alloc(width * height * 3);
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const at = (y * width + x) * 3;
      // The paper takes colour unevenly, and a margin stays bare.
      const tooth = 1 + 0.03 * noise(x * 0.21, y * 0.21, 3) + 0.025 * noise(x * 0.013, y * 0.02, 8);
      const margin = Math.min(x, y, width - 1 - x, height - 1 - y) + 5 * noise(x * 0.02, y * 0.02, 1);
      const bare = margin < 34 ? 1 : 0;
      const line = lineAt(seen, width, height, x, y) * (0.82 + 0.18 * noise(x * 0.09, y * 0.09, 5));
      for (let c = 0; c < 3; c += 1) {
        const flat = bare ? PAPER[c]! : seen.colour[at + c]! * 0.94 + PAPER[c]! * 0.06;
        const drawn = bare ? flat : flat + (LINE[c]! - flat) * line;
        out[at + c] = Math.min(255, Math.max(0, Math.round(drawn * tooth)));
      }
    }
  }
  return out;
}

/** Lowers every pixel by Munsell value steps, its hue kept. */
function darkened(picture: Buffer, steps: number): Buffer {
  const out = Buffer.alloc(picture.length);
  for (let at = 0; at < picture.length; at += 3) {
    const linear = [0, 1, 2].map((c) => srgbToLinear(picture[at + c]! / 255)) as [number, number, number];
    const luminance = 100 * (0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]);
    const value = Math.max(0, luminanceToMunsellValue(luminance) - steps);
    const factor = luminance > 0 ? munsellValueToLuminance(value) / luminance : 0;
    for (let c = 0; c < 3; c += 1)
      out[at + c] = Math.round(255 * linearToSrgb(Math.min(1, linear[c]! * factor)));
  }
  return out;
}

/** Where the drawing turns and widens: under the middle of the ferry, at the water. */
function footOf(): { x: number; y: number } {
  const { x, y } = new Camera(shotNamed(VIEW).pose, SIZE.width, SIZE.height).project([0, 0, 0])!;
  return { x, y };
}

/** Redraws by a linear map about the ferry's foot, read between pixels; what comes in from outside is paper. */
function redrawn(picture: Buffer, [a, b, c, d]: readonly [number, number, number, number]): Buffer {
  const { width, height } = SIZE;
  const foot = footOf();
  const whole = a * d - b * c;
  const out = Buffer.alloc(picture.length);
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const [dx, dy] = [x + 0.5 - foot.x, y + 0.5 - foot.y];
      const fromX = foot.x + (d * dx - b * dy) / whole - 0.5;
      const fromY = foot.y + (a * dy - c * dx) / whole - 0.5;
      const [left, top] = [Math.floor(fromX), Math.floor(fromY)];
      const isOutside = left < 0 || top < 0 || left >= width - 1 || top >= height - 1;
      const [u, v] = [fromX - left, fromY - top];
      for (let channel = 0; channel < 3; channel += 1) {
        const at = (row: number, column: number) => picture[(row * width + column) * 3 + channel]!;
        const mixed = () =>
          (at(top, left) * (1 - u) + at(top, left + 1) * u) * (1 - v) +
          (at(top + 1, left) * (1 - u) + at(top + 1, left + 1) * u) * v;
        out[(y * width + x) * 3 + channel] = isOutside ? PAPER[channel]! : Math.round(mixed());
      }
    }
  }
  return out;
}

export const ERRORS = { widePercent: 6, leanDeg: 2, darkSteps: 0.7 } as const;

/** The right drawing and the three with one known error each. */
export async function shipInProgress(): Promise<void> {
  const right = draw();
  const turn = (ERRORS.leanDeg * Math.PI) / 180;
  const drawings = [
    { file: 'page-7-right.png', title: 'Page 7, drawing of the ferry', pixels: right, errors: [] },
    {
      file: 'page-7-too-wide.png',
      title: 'Page 7, first try',
      pixels: redrawn(right, [1 + ERRORS.widePercent / 100, 0, 0, 1]),
      errors: [{ kind: 'too wide', amount: ERRORS.widePercent, unit: 'percent' }],
    },
    {
      file: 'page-7-leaning.png',
      title: 'Page 7, second try',
      pixels: redrawn(right, [Math.cos(turn), -Math.sin(turn), Math.sin(turn), Math.cos(turn)]),
      errors: [{ kind: 'leaning', amount: ERRORS.leanDeg, unit: 'degrees' }],
    },
    {
      file: 'page-7-too-dark.png',
      title: 'Page 7, third try',
      pixels: darkened(right, ERRORS.darkSteps),
      errors: [{ kind: 'too dark', amount: ERRORS.darkSteps, unit: 'Munsell value steps' }],
    },
  ];
  const view = shotNamed(VIEW);
  const { pose } = view;
  for (const { file, title, pixels, errors } of drawings) {
    await sharp(pixels, { raw: { ...SIZE, channels: 3 } })
      .png({ palette: true, colours: 160, dither: 0.5, effort: 8 })
      .toFile(`${PICTURES}${file}`);
    await writeTruth({
      ...{ file, title, subject: 'the ferry', kind: 'drawing in progress', mediaType: 'image/png', ...SIZE },
      camera: {
        ...{ azimuthDeg: pose.azimuthDeg, elevationDeg: pose.elevationDeg, rollDeg: 0 },
        ...{ distanceM: pose.distanceM, focalMm: pose.focalMm, targetM: [...pose.target] },
      },
      from: { file: fileOf(view), how: 'drawn over', scale: SIZE.width / view.width },
      errors,
    } as Truth);
  }
}

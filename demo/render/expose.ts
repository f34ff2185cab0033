import type { Camera } from './camera.ts';
import type { Exposure } from './develop.ts';
import type { Tracer } from './trace.ts';

/** Brightest single sample that counts: more would leave specks. */
const CEILING = 6;

/** Rays after which an even pixel has enough, and how far apart its rays may then be. */
const FIRST = 3;
const EVEN = 0.0015;

/** Gathers up to `samples` rays a pixel; fewer where the first ones agree. */
export function expose(tracer: Tracer, camera: Camera, samples: number): Exposure {
  const { width, height } = camera;
  const exposure: Exposure = {
    ...{ width, height },
    matt: new Float32Array(width * height * 3),
    rest: new Float32Array(width * height * 3),
    colour: new Float32Array(width * height * 3),
    normal: new Float32Array(width * height * 3),
    depth: new Float32Array(width * height),
  };
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) exposePixel(tracer, camera, exposure, x, y, samples);
  }
  return exposure;
}

function exposePixel(
  tracer: Tracer,
  camera: Camera,
  { width, matt, rest, colour, normal, depth }: Exposure,
  x: number,
  y: number,
  samples: number,
): void {
  const at = y * width + x;
  tracer.begin(at);
  let taken = 0;
  let sum = 0;
  let squares = 0;
  while (taken < samples) {
    tracer.pixel(camera, x, y, taken);
    taken += 1;
    for (let c = 0; c < 3; c += 1) {
      const index = at * 3 + c;
      matt[index] = matt[index]! + Math.min(tracer.matt[c]!, CEILING);
      rest[index] = rest[index]! + Math.min(tracer.rest[c]!, CEILING);
      colour[index] = colour[index]! + tracer.colour[c]!;
      normal[index] = normal[index]! + tracer.normal[c]!;
    }
    depth[at] = depth[at]! + Math.min(tracer.depth, 1000);
    const seen = Math.sqrt(Math.min(tracer.matt[1]! + tracer.rest[1]!, CEILING));
    sum += seen;
    squares += seen * seen;
    if (taken === FIRST && squares / taken - (sum / taken) ** 2 < EVEN) break;
  }
  for (let c = at * 3; c < at * 3 + 3; c += 1) {
    matt[c] = matt[c]! / taken;
    rest[c] = rest[c]! / taken;
    colour[c] = colour[c]! / taken;
    normal[c] = normal[c]! / taken;
  }
  depth[at] = depth[at]! / taken;
}

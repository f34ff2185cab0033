import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ladderSidesOf, sizeAtSide } from '@miradero/core/picture';
import type { IntakeAnswer, Picture } from '@miradero/core/schema';
import sharp from 'sharp';

const SIDES = { width: 4000, height: 3000 } as const;
/** As intake encodes; the limit must do the same work. */
const WEBP = { quality: 85, effort: 1 } as const;

/** Forms of many sizes and tones under grain, others for every seed: nothing is a copy of anything. */
async function photograph(seed: number): Promise<Buffer> {
  const at = (index: number, salt: number) =>
    Math.abs((Math.sin(seed * 12.9 + index * 78.2 + salt * 37.7) * 43758.5) % 1);
  const forms = Array.from({ length: 220 }, (_, index) => {
    const tone = Math.round(255 * at(index, 4));
    const fill = `rgb(${tone},${Math.round(tone * (0.7 + 0.3 * at(index, 5)))},${Math.round(tone * at(index, 6))})`;
    return `<circle cx="${at(index, 1) * 400}" cy="${at(index, 2) * 300}" r="${2 + at(index, 3) * 40}" fill="${fill}"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300" width="${SIDES.width}" height="${SIDES.height}">${forms.join('')}</svg>`;
  const grain = await sharp({
    create: {
      ...SIDES,
      channels: 3,
      background: '#808080',
      noise: { type: 'gaussian', mean: 128, sigma: 9 },
    },
  })
    .png({ compressionLevel: 0 })
    .toBuffer();
  return sharp(Buffer.from(svg))
    .flatten({ background: '#667' })
    .composite([{ input: grain, blend: 'soft-light' }])
    .jpeg({ quality: 88 })
    .toBuffer();
}

/** Photographs of 12 megapixels as cameras write them, each with bytes of its own, in a folder that is gone afterwards. */
export async function withCameraFiles<T>(
  count: number,
  use: (paths: string[]) => Promise<T>,
  series = 0,
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'miradero-bench-'));
  try {
    const paths: string[] = [];
    for (let index = 0; index < count; index += 1) {
      const path = join(folder, `DSC${String(index).padStart(5, '0')}.jpg`);
      await writeFile(path, await photograph(series * 1_000 + index));
      paths.push(path);
    }
    return await use(paths);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** As many files as asked for, each with bytes of its own, from photographs that are made once: what is read is the same. */
export async function withManyFiles<T>(
  count: number,
  paths: readonly string[],
  use: (paths: string[]) => Promise<T>,
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'miradero-bench-'));
  try {
    const many: string[] = [];
    for (let index = 0; index < count; index += 1) {
      const path = join(folder, `DSC${String(index).padStart(5, '0')}.jpg`);
      // What follows the end of the picture is no part of it, but of the bytes.
      const end = Buffer.from(String(index).padStart(8, '0'));
      await writeFile(path, Buffer.concat([await readFile(paths[index % paths.length]!), end]));
      many.push(path);
    }
    return await use(many);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function inLanes<T>(
  values: readonly T[],
  lanes: number,
  work: (value: T) => Promise<void>,
): Promise<void> {
  const queue = [...values];
  const lane = async () => {
    for (let next = queue.shift(); next !== undefined; next = queue.shift()) await work(next);
  };
  await Promise.all(Array.from({ length: lanes }, lane));
}

/** The limit: bare sharp making the same levels, two at a time. @returns milliseconds */
export async function bareSharp(paths: readonly string[]): Promise<number> {
  sharp.cache(false);
  sharp.concurrency(1);
  const started = performance.now();
  await inLanes(paths, 2, async (path) => {
    const sides = ladderSidesOf(SIDES.width, SIDES.height).reverse();
    let source = await sharp(await readFile(path), { sequentialRead: true })
      .autoOrient()
      .resize(sides[0], sides[0], { fit: 'inside' })
      .raw()
      .toBuffer({ resolveWithObject: true });
    for (const side of sides) {
      const { width, height, channels } = source.info;
      const size = sizeAtSide(SIDES.width, SIDES.height, side);
      source = await sharp(source.data, { raw: { width, height, channels } })
        .resize(size.width, size.height, { fit: 'fill' })
        .raw()
        .toBuffer({ resolveWithObject: true });
      await sharp(source.data, { raw: { ...size, channels } })
        .webp(WEBP)
        .toBuffer();
    }
  });
  return performance.now() - started;
}

async function upload(address: string, path: string): Promise<string> {
  const form = new FormData();
  form.append('file', new Blob([await readFile(path)]), path.split('/').pop());
  const response = await fetch(`${address}/api/pictures`, { method: 'POST', body: form });
  return ((await response.json()) as IntakeAnswer).pictures[0]!.id;
}

/** Answers of the server to an ordinary question, asked again and again until `ended`. @returns p95, milliseconds */
async function answering(address: string, ended: () => boolean): Promise<number> {
  const took: number[] = [];
  while (!ended()) {
    const started = performance.now();
    await (await fetch(`${address}/api/boards`)).json();
    took.push(performance.now() - started);
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
  return took.sort((a, b) => a - b)[Math.floor(took.length * 0.95)]!;
}

/** Files through HTTP until each has all its levels. @returns milliseconds */
export async function takeIn(address: string, paths: readonly string[]): Promise<number> {
  const started = performance.now();
  const ids: string[] = [];
  await inLanes(paths, 2, async (path) => void ids.push(await upload(address, path)));
  for (let at = 0; at < ids.length; at += 40) {
    const some = ids.slice(at, at + 40);
    for (;;) {
      const answer = await fetch(`${address}/api/pictures?ids=${some.join()}`);
      const { pictures } = (await answer.json()) as { pictures: Picture[] };
      if (pictures.every(({ state }) => state === 'ready')) break;
      if (pictures.some(({ state }) => state === 'failed')) throw new Error('a picture was not read');
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }
  return performance.now() - started;
}

/** How the server answers others when nothing else goes on, and while files come in. @returns p95 of both, milliseconds */
export async function measureAnswers(
  address: string,
  paths: readonly string[],
): Promise<{ idleP95Ms: number; busyP95Ms: number }> {
  const idleUntil = performance.now() + 4_000;
  const idleP95Ms = await answering(address, () => performance.now() > idleUntil);
  let isDone = false;
  const busy = answering(address, () => isDone);
  await takeIn(address, paths);
  isDone = true;
  return { idleP95Ms, busyP95Ms: await busy };
}

import { execFile } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { MODEL_VIEW } from '@miradero/core/picture';
import sharp from 'sharp';
import type { Truth } from '../../truth/truth.ts';
import { masterOf } from '../master.ts';
import { KNOT_SHOTS, WHEEL_CLIP, WHEEL_SHOTS } from '../shots/motion.ts';
import type { Shot } from '../shots/shot.ts';
import { truthOf } from './expose-truth.ts';
import { developed, PICTURES, shotNamed, writeTruth } from './pictures.ts';

const KNOT_DELAY_MS = 420;
const LAST_DELAY_MS = 1_600;

/** The knot as GIF and as animated WebP: the same frames, the last one held. */
async function shipKnot(): Promise<void> {
  const frames = await Promise.all(KNOT_SHOTS.map((shot) => developed(shot).resize(480).png().toBuffer()));
  const delay = frames.map((_, index) => (index === frames.length - 1 ? LAST_DELAY_MS : KNOT_DELAY_MS));
  const animated = () => sharp(frames, { join: { animated: true } });
  await animated()
    .gif({ delay, loop: 0, colours: 128, dither: 0.6, effort: 8 })
    .toFile(`${PICTURES}knot.gif`);
  await animated().webp({ delay, loop: 0, quality: 76, effort: 5 }).toFile(`${PICTURES}knot.webp`);
  const durationMs = delay.reduce((sum, one) => sum + one, 0);
  const { camera, light } = truthOf(KNOT_SHOTS[0]!, 'knot.gif', 'image/gif', 480, 360);
  const known = {
    ...{ title: 'Overhand knot, tied', subject: 'the knot', kind: 'animation', width: 480, height: 360 },
    ...{ camera, light, frames: frames.length, durationMs },
  };
  await writeTruth({ ...known, file: 'knot.gif', mediaType: 'image/gif' } as Truth);
  const from = { file: 'knot.gif', how: 'same frames', scale: 1 };
  await writeTruth({ ...known, file: 'knot.webp', mediaType: 'image/webp', from } as Truth);
}

/** What stands for a clip or a model until a browser makes a poster of it: the loader of the demo is none. */
async function shipPoster(file: string, shot: Shot): Promise<void> {
  const { width, height } = file.endsWith('.glb') ? MODEL_VIEW : shot;
  const poster = developed(shot).resize(width, height, { fit: 'cover' });
  await poster.webp({ quality: 80, effort: 5 }).toFile(`${PICTURES}${file}.poster.webp`);
}

/** The clip of the wheel: H.264 in MP4, made by ffmpeg from Debian's packages. */
async function shipWheel(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'wheel-'));
  for (const [index, shot] of WHEEL_SHOTS.entries())
    await developed(shot)
      .png()
      .toFile(join(folder, `${String(index).padStart(3, '0')}.png`));
  const file = 'chain-wheel-turning.mp4';
  const rate = String(WHEEL_CLIP.frames / WHEEL_CLIP.seconds);
  await promisify(execFile)('ffmpeg', [
    ...['-y', '-loglevel', 'error', '-framerate', rate, '-i', join(folder, '%03d.png')],
    ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-crf', '23', '-preset', 'slow', '-movflags', '+faststart'],
    `${PICTURES}${file}`,
  ]);
  await rm(folder, { recursive: true });
  const [first] = WHEEL_SHOTS as readonly [(typeof WHEEL_SHOTS)[number]];
  const { camera, light, dimensionsM } = truthOf(first, file, 'video/mp4', first.width, first.height);
  await writeTruth({
    ...{ file, title: 'Chain wheel, turning', subject: 'the ferry', kind: 'clip', mediaType: 'video/mp4' },
    ...{ width: first.width, height: first.height, camera, light, dimensionsM },
    ...{ frames: WHEEL_CLIP.frames, durationMs: WHEEL_CLIP.seconds * 1_000 },
  } as Truth);
}

const isRendered = (frames: readonly Shot[]) => frames.every((shot) => existsSync(masterOf(shot)));

export async function shipMotion(): Promise<void> {
  if (isRendered(KNOT_SHOTS)) await shipKnot();
  if (isRendered(WHEEL_SHOTS)) {
    await shipWheel();
    await shipPoster('chain-wheel-turning.mp4', WHEEL_SHOTS[4]!);
  }
  await shipPoster('ferry.glb', shotNamed('ferry-045-soft'));
}

import { createHash, randomUUID } from 'node:crypto';
import { keysOnTop } from '@miradero/core/board';
import { createPlacement } from '@miradero/core/items';
import { pictureIdOf } from '@miradero/core/picture';
import sharp from 'sharp';
import { createConnection, type Knex } from '../server/src/database/connection.ts';
import { findLocalOwner } from '../server/src/database/owner.ts';
import { addPicture, recordLevels } from '../server/src/database/pictures.ts';
import { runAtlasJob } from '../server/src/jobs/pack-atlas.ts';
import { makeLevels } from '../server/src/pixels/levels.ts';
import { storeBytes } from '../server/src/storage/blob-store.ts';

const WIDTH = 960;
const HEIGHT = 640;
/** Pictures beyond these are half as wide and simply drawn: thousands of them must be made before anything is measured. */
const LARGE = 500;
const ACROSS = 100;

/** A picture with soft forms and grain, different for every number. */
async function render(number: number): Promise<Buffer> {
  const hue = (number * 47) % 360;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}">
    <defs><radialGradient id="g" cx="${(number % 7) / 7}" cy="${(number % 5) / 5}"><stop offset="0" stop-color="hsl(${hue} 50% 75%)"/>
    <stop offset="1" stop-color="hsl(${hue + 50} 45% 22%)"/></radialGradient></defs>
    <rect width="100%" height="100%" fill="url(#g)"/>
    <ellipse cx="${100 + ((number * 131) % 700)}" cy="320" rx="170" ry="${60 + ((number * 17) % 200)}" fill="hsl(${hue + 180} 40% 50%)"/>
    <text x="40" y="600" font-size="150" fill="#fff8">${number}</text></svg>`;
  return sharp(Buffer.from(svg)).jpeg({ quality: 88 }).toBuffer();
}

/** A slope of two colours with grain, different for every number. */
function renderSmall(number: number, width: number, height: number): Promise<Buffer> {
  const data = Buffer.alloc(width * height * 3);
  let state = number + 1;
  for (let pixel = 0; pixel < width * height; pixel += 1) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    const slope = ((pixel % width) / width + pixel / (width * height)) / 2;
    data[pixel * 3] = ((number * 37) % 200) * slope + (state >>> 28);
    data[pixel * 3 + 1] = ((number * 59) % 200) * (1 - slope) + (state >>> 28);
    data[pixel * 3 + 2] = (number * 83) % 200;
  }
  return sharp(data, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 80 })
    .toBuffer();
}

const sidesOf = (number: number) =>
  number < LARGE
    ? { pictureWidth: WIDTH, pictureHeight: HEIGHT }
    : { pictureWidth: WIDTH / 2, pictureHeight: HEIGHT / 2 };

async function addOne(knex: Knex, owner: string, number: number): Promise<string> {
  const { pictureWidth: width, pictureHeight: height } = sidesOf(number);
  const bytes = await (number < LARGE ? render(number) : renderSmall(number, width, height));
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const id = pictureIdOf(owner, sha256);
  const made = await makeLevels({ original: bytes, type: 'image/jpeg', width, height });
  await knex.transaction(async (trx) => {
    await storeBytes(trx, bytes, 'image/jpeg');
    const name = `picture ${number}`;
    await addPicture(trx, owner, {
      ...{ id, name, fileName: `${name}.jpg`, type: 'image/jpeg', bytes: bytes.length, sha256 },
      ...{ width, height, kind: 'still', frames: 1, durationMs: null, source: {} },
    });
    const levels = [];
    for (const { side, bytes: copy } of made.levels) {
      levels.push({ side, bytes: copy.length, hash: await storeBytes(trx, copy, 'image/webp') });
    }
    await recordLevels(trx, id, levels, made.thumbhash, null);
  });
  return id;
}

/** Pictures as the jobs would have made them, without the uploads: what is measured comes later. */
export async function seedPictures(databaseUrl: string, count: number): Promise<string[]> {
  const knex = createConnection(databaseUrl);
  const owner = await findLocalOwner(knex);
  const ids: string[] = [];
  for (let number = 0; number < count; number += 2) {
    ids.push(...(await Promise.all([addOne(knex, owner, number), addOne(knex, owner, number + 1)])));
  }
  await runAtlasJob(knex, owner);
  await knex.destroy();
  return ids;
}

/** A board with `count` placements, 200 × 133 each in a grid 100 across, of the given pictures in turn. */
export async function seedBoard(
  address: string,
  pictures: readonly string[],
  count: number,
): Promise<string> {
  const send = async (path: string, body: object) => {
    const response = await fetch(`${address}${path}`, {
      method: 'POST',
      body: JSON.stringify(body),
      headers: { 'Content-Type': 'application/json' },
    });
    return response.json();
  };
  const { board } = (await send('/api/boards', { name: `${count} placements` })) as { board: { id: string } };
  const stacks = keysOnTop([], Math.max(1, count));
  for (let from = 0; from < count; from += 10_000) {
    const operations = Array.from({ length: Math.min(10_000, count - from) }, (_, offset) => {
      const index = from + offset;
      return {
        create: createPlacement({
          ...{ id: `p${index}`, stack: stacks[index]!, picture: pictures[index % pictures.length]! },
          ...sidesOf(index % pictures.length),
          ...{ width: 200, flipX: index % 9 === 0 },
          centre: { x: (index % ACROSS) * 212, y: Math.floor(index / ACROSS) * 145 },
        }),
      };
    });
    await send(`/api/boards/${board.id}/changes`, { changes: [{ id: randomUUID(), operations }] });
  }
  // Its preview is painted before anything is measured.
  for (let patience = 0; count > 0 && patience < 240; patience += 1) {
    const { board: now } = (await (await fetch(`${address}/api/boards/${board.id}`)).json()) as {
      board: { preview: string | null };
    };
    if (now.preview !== null) break;
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  return board.id;
}

import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { finished } from 'node:stream/promises';
import { surroundColour } from '@miradero/core/colour';
import { fileNameOf } from '@miradero/core/picture';
import type { Picture } from '@miradero/core/schema';
import sharp from 'sharp';
import type { Knex } from '../database/connection.ts';
import { type DefinedImage, drawBoard } from '../painting/svg-marks.ts';
import { readBytes } from '../storage/blob-store.ts';
import type { Made, MakingFlat } from './make-flat.ts';
import { makeZip, type ZipEntry } from './make-zip.ts';

/** A copy as every program reads it: PNG where something of it is clear, else JPEG. */
async function copyOf(knex: Knex, picture: Picture, side: number) {
  const level = picture.levels.find((one) => one.side >= side) ?? picture.levels.at(-1);
  if (!level) return undefined;
  const image = sharp(await readBytes(knex, level.hash));
  const { isOpaque } = await image.stats();
  const { data, info } = await (isOpaque
    ? image.jpeg({ quality: 92, chromaSubsampling: '4:4:4' })
    : image.png()
  ).toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height, ...(isOpaque ? JPEG : PNG) };
}
const JPEG = { type: 'image/jpeg', ending: 'jpg' } as const;
const PNG = { type: 'image/png', ending: 'png' } as const;

/** Longest side of the pictures in a drawing where nobody chose, pixels: the largest copy there is. */
const SIDE = 2_048;

/**
 * Makes a drawing (SVG) of what is taken out: texts as outlines, pictures in it, or beside it in a ZIP.
 *
 * @returns its path and ending
 */
export async function makeDrawing(
  knex: Knex,
  making: MakingFlat,
  isLinked: boolean,
  tell: (share: number) => void,
): Promise<Made & { readonly ending: string }> {
  const { list, region, pictures, folder, ground, surround, side, isWanted } = making;
  const path = join(folder, 'board.svg');
  const out = createWriteStream(path);
  const { x, y, width, height } = region;
  out.write(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="${x} ${y} ${width} ${height}">\n<defs>\n`,
  );
  const images = new Map<string, DefinedImage>();
  const beside: ZipEntry[] = [];
  let missing = 0;
  for (const [index, picture] of [...pictures.values()].entries()) {
    await isWanted();
    const copy = await copyOf(knex, picture, side ?? SIDE);
    if (!copy) {
      missing += 1;
      continue;
    }
    const id = `i${index}`;
    const { data, type, ending, ...size } = copy;
    let href = `data:${type};base64,${data.toString('base64')}`;
    if (isLinked) {
      const name = `${index + 1} ${fileNameOf(picture.name, ending)}`;
      const file = join(folder, `${id}.${ending}`);
      await writeFile(file, data);
      beside.push({ path: file, name, folder: 'pictures' });
      href = `pictures/${encodeURIComponent(name)}`;
    }
    images.set(picture.id, { id, ...size });
    if (
      !out.write(
        `<image id="${id}" width="${size.width}" height="${size.height}" preserveAspectRatio="none" href="${href}"/>\n`,
      )
    )
      await once(out, 'drain');
    tell((0.9 * (index + 1)) / pictures.size);
  }
  out.write('</defs>\n');
  const colour = ground === 'clear' ? null : ground === 'white' ? '#ffffff' : surroundColour(surround);
  for (const piece of drawBoard(list, region, (one) => images.get(one), colour)) out.write(piece);
  out.end('</svg>\n');
  await finished(out);
  const size = { width: Math.round(width), height: Math.round(height), missing };
  if (!isLinked) return { path, type: 'image/svg+xml', ending: 'svg', ...size };
  const zip = join(folder, 'board.zip');
  await makeZip(zip, [{ path, name: 'board.svg' }, ...beside]);
  return { path: zip, type: 'application/zip', ending: 'zip', ...size };
}

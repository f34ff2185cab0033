import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  clip,
  endPath,
  PDFDocument,
  type PDFImage,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
  rectangle,
  rgb,
  StandardFonts,
} from '@cantoo/pdf-lib';
import { PAGE_MARGIN_MM, type PageTile, type Tiling, tilePages } from '@miradero/core/formats';
import { flatSize, MOST_FLAT_SIDE } from '@miradero/core/raster';
import type { Print } from '@miradero/core/schema';
import sharp from 'sharp';
import type { Knex } from '../database/connection.ts';
import type { Decoding } from '../pixels/decoding/decoders.ts';
import { type Made, type MakingFlat, makeFlat } from './make-flat.ts';

/** Units of a PDF are 1/72 inch. Source: ISO 32000-1:2008, 8.3.2.3. */
const PT_PER_MM = 72 / 25.4;
const MM_PER_INCH = 25.4;
const MARK = { color: rgb(0.35, 0.35, 0.35), thickness: 0.4 };
const CROSS_MM = 4;
const LABEL_PT = 7;

const pt = (mm: number): number => mm * PT_PER_MM;

/** Lines where a page overlaps the ones before it, crosses at its corners, and what it is called. */
function drawMarks(page: PDFPage, tile: PageTile, { rows, columns }: Tiling, label: string): void {
  const height = page.getHeight();
  const at = (xMm: number, yMm: number) => ({
    x: pt(PAGE_MARGIN_MM + xMm),
    y: height - pt(PAGE_MARGIN_MM + yMm),
  });
  const line = (x1: number, y1: number, x2: number, y2: number) =>
    page.drawLine({ start: at(x1, y1), end: at(x2, y2), ...MARK });
  for (const [x, y] of [
    [0, 0],
    [tile.width, 0],
    [0, tile.height],
    [tile.width, tile.height],
  ] as const) {
    line(x - CROSS_MM, y, x + CROSS_MM, y);
    line(x, y - CROSS_MM, x, y + CROSS_MM);
  }
  const dashed = { ...MARK, dashArray: [3, 3] };
  if (tile.left > 0) page.drawLine({ start: at(tile.left, 0), end: at(tile.left, tile.height), ...dashed });
  if (tile.top > 0) page.drawLine({ start: at(0, tile.top), end: at(tile.width, tile.top), ...dashed });
  const { x } = at(0, 0);
  page.drawText(`${label}  ${tile.name}  (${columns} × ${rows})`, {
    x,
    y: pt(PAGE_MARGIN_MM) / 3,
    size: LABEL_PT,
    color: MARK.color,
  });
}

/** One page: the part of the picture that is on it, cut off at its edges. */
function addTile(
  document: PDFDocument,
  image: PDFImage,
  tile: PageTile,
  tiling: Tiling,
  size: { width: number; height: number },
): PDFPage {
  const page = document.addPage([pt(tiling.page.width), pt(tiling.page.height)]);
  const top = page.getHeight() - pt(PAGE_MARGIN_MM);
  const left = pt(PAGE_MARGIN_MM);
  page.pushOperators(
    pushGraphicsState(),
    rectangle(left, top - pt(tile.height), pt(tile.width), pt(tile.height)),
    clip(),
    endPath(),
  );
  page.drawImage(image, {
    ...{ x: left - pt(tile.x), y: top + pt(tile.y) - pt(size.height) },
    ...{ width: pt(size.width), height: pt(size.height) },
  });
  page.pushOperators(popGraphicsState());
  return page;
}

/** Letters that the fonts of every PDF viewer have. Source: ISO 32000-1:2008, annex D.2 (WinAnsiEncoding). */
const plain = (name: string): string => name.replace(/[^\x20-\x7e\xa1-\xff]/g, '').slice(0, 60);

/** Makes pages (PDF) of what is taken out, at its true size: one as large as it is, or sheets of paper that overlap. */
export async function makePages(
  knex: Knex,
  decoders: Decoding,
  making: MakingFlat,
  { widthMm, paper, overlapMm, ppi }: Print,
  name: string,
  tell: (share: number) => void,
): Promise<Made> {
  const { region, folder } = making;
  const size = { width: widthMm, height: (widthMm * region.height) / region.width };
  const wanted = Math.round((Math.max(size.width, size.height) / MM_PER_INCH) * ppi);
  const side = Math.min(MOST_FLAT_SIDE, Math.max(1, wanted));
  const flat = join(folder, 'page.png');
  const made = await makeFlat(knex, decoders, { ...making, path: flat, type: 'image/png', side }, (share) =>
    tell(0.8 * share),
  );
  const jpeg = join(folder, 'page.jpg');
  await sharp(flat, { limitInputPixels: false })
    .flatten({ background: '#ffffff' })
    .jpeg({ quality: 95, chromaSubsampling: '4:4:4' })
    .toFile(jpeg);
  const document = await PDFDocument.create();
  document.setTitle(plain(name));
  document.setProducer('Miradero');
  document.setCreator('Miradero');
  const image = await document.embedJpg(await readFile(jpeg));
  await document.embedFont(StandardFonts.Helvetica);
  if (paper === null) {
    const page = document.addPage([pt(size.width), pt(size.height)]);
    page.drawImage(image, { x: 0, y: 0, width: pt(size.width), height: pt(size.height) });
  } else {
    const tiling = tilePages(size, paper, overlapMm);
    for (const tile of tiling.tiles) {
      const page = addTile(document, image, tile, tiling, size);
      if (tiling.tiles.length > 1) drawMarks(page, tile, tiling, plain(name));
    }
  }
  const path = join(folder, 'pages.pdf');
  await writeFile(path, await document.save());
  const { width, height } = flatSize(region, side);
  return { path, type: 'application/pdf', width, height, missing: made.missing };
}

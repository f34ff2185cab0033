import { breakLines, type Drawn, type DrawnNote, type DrawnPicture, NOTE_TYPE } from '@miradero/core/board';
import { munsellValueToGrey8 } from '@miradero/core/colour';
import type { Affine, Rectangle } from '@miradero/core/geometry';
import { type Level, sizeAtSide, sufficientSide } from '@miradero/core/picture';
import sharp, { type OverlayOptions } from 'sharp';

export const PREVIEW = { width: 720, height: 450 } as const;
const MARGIN_PX = 18;
const PAPER = '#fafaf9';
const INK = '#1d1d1b';
/** Width of a letter of running text, as a share of its size: only how long lines are is shown. */
const LETTER = 0.42;

/** What a picture on the preview is drawn from. */
export interface PreviewSource {
  readonly width: number;
  readonly height: number;
  readonly levels: readonly Level[];
}

interface Paper {
  /** Pixels per board unit. */
  readonly scale: number;
  /** Board point at the top left corner of the preview. */
  readonly left: number;
  readonly top: number;
}

/** Fits the extent of a board into the preview, centred, never larger than it stands. */
function paperFor(extent: Rectangle): Paper {
  const scale = Math.min(
    1,
    (PREVIEW.width - 2 * MARGIN_PX) / extent.width,
    (PREVIEW.height - 2 * MARGIN_PX) / extent.height,
  );
  return {
    scale,
    left: extent.x + extent.width / 2 - PREVIEW.width / 2 / scale,
    top: extent.y + extent.height / 2 - PREVIEW.height / 2 / scale,
  };
}

/** The frame on the preview: where its middle is, its sides in pixels, its turn, and whether it is mirrored. */
function placeOn({ scale, left, top }: Paper, [a, b, c, d, e, f]: Affine) {
  return {
    x: (a / 2 + c / 2 + e - left) * scale,
    y: (b / 2 + d / 2 + f - top) * scale,
    width: Math.max(1, Math.round(Math.hypot(a, b) * scale)),
    height: Math.max(1, Math.round(Math.hypot(c, d) * scale)),
    turnDeg: (Math.atan2(b, a) * 180) / Math.PI,
    isMirrored: a * d - b * c < 0,
  };
}

async function pictureLayer(
  drawn: DrawnPicture,
  paper: Paper,
  source: PreviewSource,
  readBytes: (hash: string) => Promise<Buffer>,
): Promise<OverlayOptions | undefined> {
  const place = placeOn(paper, drawn.frame);
  const side = sufficientSide(
    source.levels.map((level) => level.side),
    drawn.longestSide * paper.scale,
  );
  const level = source.levels.find((known) => known.side === side);
  if (!level) return undefined;
  const size = sizeAtSide(source.width, source.height, level.side);
  const { trim } = drawn;
  const left = Math.min(size.width - 1, Math.round(trim.x * size.width));
  const top = Math.min(size.height - 1, Math.round(trim.y * size.height));
  const part = {
    left,
    top,
    width: Math.max(1, Math.min(size.width - left, Math.round(trim.width * size.width))),
    height: Math.max(1, Math.min(size.height - top, Math.round(trim.height * size.height))),
  };
  // Two pipelines: within one, the turn would come before the mirroring, and fading before there is an alpha channel.
  const upright = await sharp(await readBytes(level.hash))
    .extract(part)
    .resize(place.width, place.height, { fit: 'fill' })
    .flip(place.isMirrored)
    .ensureAlpha()
    .png({ compressionLevel: 0 })
    .toBuffer();
  const { data, info } = await sharp(upright)
    .linear([1, 1, 1, drawn.opacity], [0, 0, 0, 0])
    .rotate(place.turnDeg, { background: { r: 0, g: 0, b: 0, alpha: 0 } })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return {
    input: data,
    raw: { width: info.width, height: info.height, channels: info.channels },
    left: Math.round(place.x - info.width / 2),
    top: Math.round(place.y - info.height / 2),
  };
}

/** Notes as paper with lines of the right length: at this size nobody reads them, and no font is needed. */
function noteMark(note: DrawnNote, { scale, left, top }: Paper): string {
  const [a, b, c, d, e, f] = note.frame;
  const size = note.width / NOTE_TYPE.width;
  const { fontSize, lineHeight, padding } = NOTE_TYPE;
  const matrix = [a / note.width, b / note.width, c / note.height, d / note.height]
    .map((part) => part * scale)
    .join(' ');
  const lines = breakLines(
    note.text,
    NOTE_TYPE.width - 2 * padding,
    (piece) => piece.length * fontSize * LETTER,
  )
    .map((line, index) => ({ y: padding + index * lineHeight + 4, width: line.length * fontSize * LETTER }))
    .filter(({ y, width }) => width > 0 && y * size < note.height - 4)
    .map(
      ({ y, width }) =>
        `<rect x="${padding * size}" y="${y * size}" width="${width * size}" height="${9 * size}"/>`,
    );
  return `<g opacity="${note.opacity}" transform="matrix(${matrix} ${(e - left) * scale} ${(f - top) * scale})">
    <rect width="${note.width}" height="${note.height}" fill="${PAPER}"/>
    <g fill="${INK}" opacity="0.5">${lines.join('')}</g></g>`;
}

const overlay = (marks: readonly string[]): OverlayOptions => ({
  input: Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${PREVIEW.width}" height="${PREVIEW.height}">${marks.join('')}</svg>`,
  ),
  left: 0,
  top: 0,
});

/**
 * Paints a board as it stands, from the same list from which screens are drawn.
 *
 * @param list - lowest first
 * @param extent - board units, all of it is shown
 * @param surround - Munsell value of the ground
 * @returns WebP of `PREVIEW` size
 */
export async function paintPreview(
  list: readonly Drawn[],
  extent: Rectangle,
  surround: number,
  sources: ReadonlyMap<string, PreviewSource>,
  readBytes: (hash: string) => Promise<Buffer>,
): Promise<Buffer> {
  const paper = paperFor(extent);
  const layers: OverlayOptions[] = [];
  let marks: string[] = [];
  const finishMarks = () => {
    if (marks.length > 0) layers.push(overlay(marks));
    marks = [];
  };
  for (const drawn of list) {
    if (drawn.kind === 'note') {
      marks.push(noteMark(drawn, paper));
      continue;
    }
    const source = sources.get(drawn.picture);
    const layer = source && (await pictureLayer(drawn, paper, source, readBytes));
    if (!layer) continue;
    finishMarks();
    layers.push(layer);
  }
  finishMarks();
  const grey = munsellValueToGrey8(surround);
  return sharp({ create: { ...PREVIEW, channels: 3, background: { r: grey, g: grey, b: grey } } })
    .composite(layers)
    .webp({ quality: 82, effort: 2, smartSubsample: true })
    .toBuffer();
}

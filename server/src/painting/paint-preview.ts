import { munsellValueToGrey8 } from '@miradero/core/colour';
import { type Affine, compose, type Rectangle, scaling, translation } from '@miradero/core/geometry';
import type { Drawn, Path, PictureQuad, TextRun } from '@miradero/core/items';
import { type Level, sizeAtSide, sufficientSide } from '@miradero/core/picture';
import sharp, { type OverlayOptions } from 'sharp';
import { Letters } from './outlines.ts';

export const PREVIEW = { width: 720, height: 450 } as const;
const MARGIN_PX = 18;

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
  { frame, opacity }: Drawn,
  drawn: PictureQuad,
  paper: Paper,
  source: PreviewSource,
  readBytes: (hash: string) => Promise<Buffer>,
): Promise<OverlayOptions | undefined> {
  const { x, y, width, height } = drawn.place;
  const place = placeOn(paper, compose(frame, translation(x, y), scaling(width, height)));
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
    .linear([1, 1, 1, opacity], [0, 0, 0, 0])
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

/** Letters of one preview; on a board of long texts the later ones are left out, where nobody could read them. */
const MOST_LETTERS = 20_000;

const svgMatrix = ([a, b, c, d, e, f]: Affine, { scale, left, top }: Paper): string =>
  `matrix(${[a, b, c, d].map((part) => part * scale).join(' ')} ${(e - left) * scale} ${(f - top) * scale})`;

function textMark({ text, at, scale, colour, clip }: TextRun, letters: Letters): string {
  if (letters.count > MOST_LETTERS) return '';
  // What the clip cuts off is not set at all: it is below, and long.
  const seen = text.lines.filter(({ baseline }) => at.y + (baseline - text.fontSize) * scale < clip.height);
  return `<g color="${colour}" fill="${colour}" transform="translate(${at.x} ${at.y}) scale(${scale})">${letters.set({ ...text, lines: seen })}</g>`;
}

const pathMark = ({ d, fill = 'none', stroke }: Path): string =>
  `<path d="${d}" fill="${fill}"${stroke ? ` stroke="${stroke.colour}" stroke-width="${stroke.width}"` : ''}/>`;

/** Text and paths of an item; what does not fit into it is cut off. */
function itemMark(drawn: Drawn, marks: readonly string[], paper: Paper, id: number): string {
  const clip = `<clipPath id="c${id}"><rect width="${drawn.width}" height="${drawn.height}"/></clipPath>`;
  return `<g opacity="${drawn.opacity}" transform="${svgMatrix(drawn.frame, paper)}">${clip}<g clip-path="url(#c${id})">${marks.join('')}</g></g>`;
}

const overlay = (marks: readonly string[], letters: Letters): OverlayOptions => ({
  input: Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${PREVIEW.width}" height="${PREVIEW.height}"><defs>${letters.definitions()}</defs>${marks.join('')}</svg>`,
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
  const letters = new Letters();
  let marks: string[] = [];
  const finishMarks = () => {
    if (marks.length > 0) layers.push(overlay(marks, letters));
    marks = [];
  };
  for (const [index, drawn] of list.entries()) {
    let own: string[] = [];
    const finishOwn = () => {
      if (own.length > 0) marks.push(itemMark(drawn, own, paper, index));
      own = [];
    };
    for (const primitive of drawn.primitives) {
      if (primitive.kind === 'path') own.push(pathMark(primitive));
      else if (primitive.kind === 'text') own.push(textMark(primitive, letters));
      else {
        const source = sources.get(primitive.picture);
        const layer = source && (await pictureLayer(drawn, primitive, paper, source, readBytes));
        if (!layer) continue;
        finishOwn();
        finishMarks();
        layers.push(layer);
      }
    }
    finishOwn();
  }
  finishMarks();
  const grey = munsellValueToGrey8(surround);
  return sharp({ create: { ...PREVIEW, channels: 3, background: { r: grey, g: grey, b: grey } } })
    .composite(layers)
    .webp({ quality: 82, effort: 2, smartSubsample: true })
    .toBuffer();
}

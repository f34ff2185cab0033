import { type DrawnNote, type DrawnPicture, NOTE_TYPE } from '@miradero/core/board';
import { boundsOfPoints, intersectionOf, type Rectangle } from '@miradero/core/geometry';
import type { PaintRequest, SceneItem } from '../messages.ts';
import { canvasNoteFont, linesIn } from '../note-font.ts';
import type { Scene } from '../scene.ts';
import type { PictureCache, Pixels } from './picture-cache.ts';

type Context = OffscreenCanvasRenderingContext2D;

/** A picture pixel covering more device pixels than this is shown as a square, so that single pixels can be read. */
const SQUARES_ABOVE = 4;
const PAPER = '#fafaf9';
const INK = '#1d1d1b';
/** Text smaller than this many device pixels is only suggested. */
const READABLE_PX = 4;

/** What a frame came to. */
export interface Painted {
  readonly isSharp: boolean;
  readonly isComplete: boolean;
}

/** Paints the part of the scene that a request asks for. The context's canvas has the size of the request. */
export function paint(context: Context, scene: Scene, cache: PictureCache, request: PaintRequest): Painted {
  const { view, scale, ground } = request;
  const { width, height } = context.canvas;
  context.setTransform(1, 0, 0, 1, 0, 0);
  if (ground === null) context.clearRect(0, 0, width, height);
  else {
    context.fillStyle = ground;
    context.fillRect(0, 0, width, height);
  }
  cache.beginFrame(request.isLoading);
  let isSharp = true;
  let isComplete = true;
  const middle = { x: view.x + view.width / 2, y: view.y + view.height / 2 };
  for (const item of itemsOf(scene, request)) {
    const [a, b, c, d, e, f] = item.drawn.frame;
    context.globalAlpha = item.drawn.opacity;
    context.setTransform(
      a * scale,
      b * scale,
      c * scale,
      d * scale,
      (e - view.x) * scale,
      (f - view.y) * scale,
    );
    if (item.drawn.kind === 'note') {
      paintNote(context, item.drawn, scale);
      continue;
    }
    const { bounds } = item;
    const away = Math.hypot(bounds.x + bounds.width / 2 - middle.x, bounds.y + bounds.height / 2 - middle.y);
    const urgency = request.isLoading ? 1 / (1 + away / Math.max(view.width, 1)) : 0;
    const result = paintPicture(context, item.drawn, cache, scale, urgency);
    isSharp &&= result.isSharp;
    isComplete &&= result.isComplete;
  }
  context.globalAlpha = 1;
  cache.endFrame();
  return { isSharp, isComplete };
}

function itemsOf(scene: Scene, { view, only, except, instead }: PaintRequest): SceneItem[] {
  if (instead) return [...instead];
  const items = scene.within(view);
  if (only) {
    const wanted = new Set(only);
    return items.filter((item) => wanted.has(item.drawn.id));
  }
  if (except && except.length > 0) {
    const unwanted = new Set(except);
    return items.filter((item) => !unwanted.has(item.drawn.id));
  }
  return items;
}

function paintPicture(
  context: Context,
  drawn: DrawnPicture,
  cache: PictureCache,
  scale: number,
  urgency: number,
): Painted {
  const neededPx = drawn.longestSide * scale;
  const { pixels, isEnough } = cache.pixelsFor(drawn.picture, neededPx, urgency);
  if (pixels === undefined) {
    paintFrame(context, drawn, cache);
    return { isSharp: isEnough, isComplete: isEnough };
  }
  const { x, y, width, height } = drawn.trim;
  const magnification = neededPx / Math.max(pixels.width, pixels.height);
  const isSquare = isEnough && magnification > SQUARES_ABOVE;
  if (context.imageSmoothingEnabled === isSquare) context.imageSmoothingEnabled = !isSquare;
  const source = inset(pixels, x, y, width, height);
  context.drawImage(pixels.image, source.x, source.y, source.width, source.height, 0, 0, 1, 1);
  const areTilesEnough = paintTiles(context, drawn, cache, neededPx, urgency);
  return { isSharp: isEnough && areTilesEnough, isComplete: true };
}

/** The part of the unit square that the canvas shows, under the present transform. */
function shownPart(context: Context): Rectangle {
  const { width, height } = context.canvas;
  const back = context.getTransform().inverse();
  const corners = [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ].map(([x, y]) => back.transformPoint({ x: x!, y: y! }));
  return intersectionOf(boundsOfPoints(corners), { x: 0, y: 0, width: 1, height: 1 });
}

/** Paints the tiles of a very large picture over its largest level. @returns whether none is missing */
function paintTiles(
  context: Context,
  drawn: DrawnPicture,
  cache: PictureCache,
  neededPx: number,
  urgency: number,
): boolean {
  const { trim } = drawn;
  const shown = shownPart(context);
  const part = {
    x: trim.x + shown.x * trim.width,
    y: trim.y + shown.y * trim.height,
    width: shown.width * trim.width,
    height: shown.height * trim.height,
  };
  const { tiles, isEnough } = cache.tilesFor(drawn.picture, neededPx, part, urgency);
  for (const { pixels, part: whole } of tiles) {
    const kept = intersectionOf(whole, trim);
    const source = inset(
      pixels,
      (kept.x - whole.x) / whole.width,
      (kept.y - whole.y) / whole.height,
      kept.width / whole.width,
      kept.height / whole.height,
    );
    context.drawImage(
      pixels.image,
      source.x,
      source.y,
      source.width,
      source.height,
      (kept.x - trim.x) / trim.width,
      (kept.y - trim.y) / trim.height,
      kept.width / trim.width,
      kept.height / trim.height,
    );
  }
  return isEnough;
}

/** The trimmed part in pixels of the bitmap. */
const inset = (pixels: Pixels, x: number, y: number, width: number, height: number) => ({
  x: pixels.x + x * pixels.width,
  y: pixels.y + y * pixels.height,
  width: width * pixels.width,
  height: height * pixels.height,
});

/** A picture without pixels: its shape, its name, and why where there is a reason. */
function paintFrame(context: Context, drawn: DrawnPicture, cache: PictureCache): void {
  const { a, b, c, d, e, f } = context.getTransform();
  const width = Math.hypot(a, b);
  const height = Math.hypot(c, d);
  context.fillStyle = 'rgba(128, 128, 128, 0.55)';
  context.fillRect(0, 0, 1, 1);
  // Words are not mirrored with the picture: only place and turn are kept.
  const flip = Math.sign(a * d - b * c);
  context.setTransform(a / width, b / width, (c / height) * flip, (d / height) * flip, e, f);
  const top = flip < 0 ? -height : 0;
  context.strokeStyle = 'rgba(250, 250, 249, 0.8)';
  context.lineWidth = 1;
  context.strokeRect(0.5, top + 0.5, width - 1, height - 1);
  const source = cache.source(drawn.picture);
  if (width < 60 || height < 30 || source === undefined) return;
  context.save();
  context.beginPath();
  context.rect(0, top, width, height);
  context.clip();
  context.fillStyle = '#fafaf9';
  context.font = `italic 15px ${canvasNoteFont()}`;
  context.textBaseline = 'alphabetic';
  context.fillText(source.name, 10, top + 24);
  if (source.failure !== null) {
    context.font = `13px ${canvasNoteFont()}`;
    const lines = linesIn(context.font, source.failure, width - 20);
    lines.forEach((line, index) => {
      context.fillText(line, 10, top + 46 + index * 18);
    });
  }
  context.restore();
}

function paintNote(context: Context, note: DrawnNote, scale: number): void {
  context.fillStyle = PAPER;
  context.fillRect(0, 0, 1, 1);
  const { a, b, c, d, e, f } = context.getTransform();
  // The note's type grows with it: its width says how much.
  const size = note.width / NOTE_TYPE.width;
  const unit = scale * size;
  if (NOTE_TYPE.fontSize * unit < READABLE_PX) return;
  const scaled = [
    a / note.width / scale,
    b / note.width / scale,
    c / note.height / scale,
    d / note.height / scale,
  ];
  context.save();
  context.setTransform(scaled[0]! * unit, scaled[1]! * unit, scaled[2]! * unit, scaled[3]! * unit, e, f);
  context.beginPath();
  context.rect(0, 0, NOTE_TYPE.width, note.height / size);
  context.clip();
  context.fillStyle = INK;
  context.font = `${NOTE_TYPE.fontSize}px ${canvasNoteFont()}`;
  context.textBaseline = 'alphabetic';
  const lines = linesIn(context.font, note.text, NOTE_TYPE.width - 2 * NOTE_TYPE.padding);
  lines.forEach((line, index) => {
    const baseline = NOTE_TYPE.padding + index * NOTE_TYPE.lineHeight + NOTE_TYPE.fontSize;
    context.fillText(line, NOTE_TYPE.padding, baseline);
  });
  context.restore();
}

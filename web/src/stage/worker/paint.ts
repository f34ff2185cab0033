import {
  type Affine,
  applyAffine,
  boundsOfPoints,
  compose,
  inflate,
  intersectionOf,
  type Rectangle,
} from '@miradero/core/geometry';
import { type Drawn, drawnOf, kindOf, type PictureQuad, WHOLE } from '@miradero/core/items';
import { type CoarsePixels, type LaidLens, lensOf, seeingOf } from '@miradero/core/lens';
import { layOut } from '@miradero/core/typesetting';
import type { PaintedBefore, PaintRequest, SceneItem } from '../messages.ts';
import type { Scene } from '../scene.ts';
import { clipOf, paintMarksOn, paintPath, withinPixels } from './paint-paths.ts';
import { paintLines, paintText } from './paint-text.ts';
import type { DrawnPixels, PictureCache } from './picture-cache.ts';
import { SeenThrough } from './seen-through.ts';

type Context = OffscreenCanvasRenderingContext2D;

/** A picture pixel covering more device pixels than this is shown as a square, so that single pixels can be read. */
const SQUARES_ABOVE = 4;

/** What an item comes to, found once: items are never altered in place. */
const drawnItems = new WeakMap<SceneItem, Drawn>();

function drawnBy(item: SceneItem): Drawn {
  let drawn = drawnItems.get(item);
  if (drawn === undefined) {
    drawn = drawnOf(item.item, item.marks);
    drawnItems.set(item, drawn);
  }
  return drawn;
}

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
  if (request.instead && 'bitmap' in request.instead) {
    paintAgain(context, request.instead, request.lenses ?? []);
    return { isSharp: true, isComplete: true };
  }
  cache.beginFrame(request.isLoading);
  let isSharp = true;
  let isComplete = true;
  const middle = { x: view.x + view.width / 2, y: view.y + view.height / 2 };
  const marksAlone = new Set(request.marksOf);
  const lenses = request.lenses ?? [];
  const overAll = lenses.filter(({ on }) => on === null);
  const someOn = lenses.filter(({ on }) => on !== null);
  const onWhat = new Map(someOn.map((one) => [one, new Set(one.on)]));
  const dimming = someOn.filter(({ lens }) => lensOf(lens).dimsOthers);
  for (const item of itemsOf(scene, request)) {
    const drawn = drawnBy(item);
    const isOn = (one: LaidLens) => one.on === null || onWhat.get(one)!.has(drawn.id);
    const isMirrored = lenses.some((one) => lensOf(one.lens).mirrors && isOn(one));
    const own = someOn.filter((one) => lensOf(one.lens).seesPixels && isOn(one));
    const isDimmed = dimming.some((one) => !isOn(one));
    const [a, b, c, d, e, f] = drawn.frame;
    const exact: Affine = [
      ...([a * scale, b * scale, c * scale, d * scale] as const),
      ...([(e - view.x) * scale, (f - view.y) * scale] as const),
    ];
    // What lies on it and is as large hides it whole: of paper no line is seen along its edge.
    const frame = kindOf(item.item).isGround ? withinPixels(exact, drawn) : exact;
    const opacity = isDimmed ? drawn.opacity * DIMMED : drawn.opacity;
    const { bounds } = item;
    const away = Math.hypot(bounds.x + bounds.width / 2 - middle.x, bounds.y + bounds.height / 2 - middle.y);
    const urgency = request.isLoading ? 1 / (1 + away / Math.max(view.width, 1)) : 0;
    /** @returns whether nothing better comes for it at this scale */
    const paintOn = (on: Context, at: Affine): boolean => {
      let isFinal = true;
      for (const primitive of drawn.primitives) {
        if (marksAlone.has(drawn.id) && primitive.kind !== 'paths-on-picture') continue;
        if (primitive.kind === 'path') paintPath(on, primitive, at);
        else if (primitive.kind === 'text') paintText(on, primitive, at);
        else {
          const inMirror = isMirrored ? compose(at, [-1, 0, 0, 1, drawn.width, 0]) : at;
          if (primitive.kind === 'paths-on-picture') {
            paintMarksOn(on, primitive, inMirror);
            continue;
          }
          const result = paintPicture(on, primitive, inMirror, cache, scale, urgency);
          isSharp &&= result.isSharp;
          isComplete &&= result.isComplete;
          isFinal &&= result.isSharp && result.isComplete;
        }
      }
      return isFinal;
    };
    const blend = drawn.isMultiplied ? 'multiply' : 'source-over';
    if (context.globalCompositeOperation !== blend) context.globalCompositeOperation = blend;
    // What lies on a picture is multiplied together with it.
    if (own.length > 0 || (drawn.isMultiplied && drawn.primitives.length > 1)) {
      paintThrough(context, drawn, { frame, lenses: own, isMirrored, opacity }, paintOn);
      continue;
    }
    if (context.globalAlpha !== opacity) context.globalAlpha = opacity;
    paintOn(context, frame);
  }
  context.globalAlpha = 1;
  context.globalCompositeOperation = 'source-over';
  if (overAll.some(({ lens }) => lensOf(lens).seesPixels)) {
    context.setTransform(1, 0, 0, 1, 0, 0);
    seeThrough(context, overAll);
  }
  cache.endFrame();
  return { isSharp, isComplete };
}

/** What a lens leaves of what it is not laid on. */
const DIMMED = 0.12;

/** Alters what a context shows as lenses do. */
function seeThrough(context: Context, lenses: readonly LaidLens[]): void {
  const { width, height } = context.canvas;
  const pixels = context.getImageData(0, 0, width, height);
  const seeing = lenses.flatMap(({ lens, amount }) => {
    const how = seeingOf(lens);
    return how ? [{ how, amount }] : [];
  });
  for (const [index, { how, amount }] of seeing.entries()) {
    // What is left of the last one in few pixels is drawn large.
    const coarse = index === seeing.length - 1 ? how.seeCoarsely?.(pixels, amount) : undefined;
    if (coarse) {
      drawLarge(context, coarse);
      return;
    }
    how.see(pixels, amount);
  }
  context.putImageData(pixels, 0, 0);
}

/** Fills a context with coarse pixels, each between its nearest. */
function drawLarge(context: Context, { pixels, step }: CoarsePixels): void {
  const { width, height } = pixels;
  const small = new OffscreenCanvas(width, height);
  small
    .getContext('2d')!
    .putImageData(new ImageData(new Uint8ClampedArray(pixels.data), width, height), 0, 0);
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalAlpha = 1;
  context.globalCompositeOperation = 'copy';
  context.imageSmoothingQuality = 'low';
  context.drawImage(small, 0, 0, width * step, height * step);
  context.globalCompositeOperation = 'source-over';
}

/** What was painted of the view before, in as many pixels as the canvas has, through lenses over all of it. */
function paintAgain(context: Context, { bitmap, part }: PaintedBefore, lenses: readonly LaidLens[]): void {
  const { width, height } = context.canvas;
  context.drawImage(bitmap, part.x, part.y, part.width, part.height, 0, 0, width, height);
  seeThrough(context, lenses);
}

/** An item as lenses show it. */
interface Look {
  readonly canvas: OffscreenCanvas;
  readonly width: number;
  readonly height: number;
}
/** So many pixels are kept: about two large views. */
const KEPT_PIXELS = 16_000_000;
const looks = new SeenThrough<Drawn, Look>(KEPT_PIXELS);

interface Through {
  readonly frame: Affine;
  readonly lenses: readonly LaidLens[];
  readonly isMirrored: boolean;
  readonly opacity: number;
}

/** Paints one item through lenses of its own: on nothing, then over what is below it; what was seen so before is not computed anew. */
function paintThrough(
  context: Context,
  drawn: Drawn,
  { frame, lenses, isMirrored, opacity }: Through,
  paintOn: (on: Context, at: Affine) => boolean,
): void {
  const reach = Math.ceil(
    Math.max(0, ...lenses.map(({ lens, amount }) => amount * (lensOf(lens).spreadsBy ?? 0))),
  );
  const corners = [0, drawn.width].flatMap((x) => [0, drawn.height].map((y) => applyAffine(frame, { x, y })));
  const bounds = inflate(boundsOfPoints(corners), reach + 1);
  const { width, height } = context.canvas;
  const seen = intersectionOf(bounds, { x: 0, y: 0, width, height });
  if (seen.width <= 0 || seen.height <= 0) return;
  const left = Math.floor(seen.x);
  const top = Math.floor(seen.y);
  const size = {
    width: Math.ceil(seen.x + seen.width) - left,
    height: Math.ceil(seen.y + seen.height) - top,
  };
  const at: Affine = [frame[0], frame[1], frame[2], frame[3], frame[4] - left, frame[5] - top];
  const chosen = lenses.map(({ lens, amount }) => [lens, amount]);
  const key = JSON.stringify([at, size, chosen, isMirrored]);
  const known = looks.find(drawn, key);
  const canvas = known?.canvas ?? new OffscreenCanvas(size.width, size.height);
  if (!known) {
    const on = canvas.getContext('2d', { willReadFrequently: true })!;
    const isFinal = paintOn(on, at);
    if (lenses.length > 0) seeThrough(on, lenses);
    if (isFinal) looks.keep(drawn, key, { canvas, ...size });
  }
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalAlpha = opacity;
  context.drawImage(canvas, left, top);
}

function itemsOf(scene: Scene, { view, only, marksOf = [], except, instead }: PaintRequest): SceneItem[] {
  if (instead && !('bitmap' in instead)) return instead.map((item) => scene.withMarks(item));
  const items = scene.within(view);
  if (only) {
    const wanted = new Set([...only, ...marksOf]);
    return items.filter((item) => wanted.has(item.item.id));
  }
  if (except && except.length > 0) {
    const unwanted = new Set(except);
    return items.filter((item) => !unwanted.has(item.item.id));
  }
  return items;
}

/** Where a picture's unit square lies on the canvas. Told in numbers: asking a canvas for its transform takes longer than a picture. */
function paintPicture(
  context: Context,
  drawn: PictureQuad,
  [a, b, c, d, e, f]: Affine,
  cache: PictureCache,
  scale: number,
  urgency: number,
): Painted {
  const { x, y, width, height } = drawn.place;
  const left = a * x + c * y + e;
  const top = b * x + d * y + f;
  context.setTransform(a * width, b * width, c * height, d * height, left, top);
  const neededPx = drawn.longestSide * scale;
  if (!drawn.toPlace && !drawn.clip) return paintUnit(context, drawn, cache, neededPx, urgency);
  context.save();
  context.clip(clipOf(drawn), 'evenodd');
  let whole = drawn;
  if (drawn.toPlace) {
    context.transform(...drawn.toPlace);
    whole = { ...drawn, trim: WHOLE };
  }
  const painted = paintUnit(context, whole, cache, neededPx, urgency);
  context.restore();
  return painted;
}

/** A picture in the unit square. */
function paintUnit(
  context: Context,
  drawn: PictureQuad,
  cache: PictureCache,
  neededPx: number,
  urgency: number,
): Painted {
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
  drawn: PictureQuad,
  cache: PictureCache,
  neededPx: number,
  urgency: number,
): boolean {
  if (!cache.needsTilesFor(drawn.picture, neededPx)) return true;
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
const inset = (pixels: DrawnPixels, x: number, y: number, width: number, height: number) => ({
  x: pixels.x + x * pixels.width,
  y: pixels.y + y * pixels.height,
  width: width * pixels.width,
  height: height * pixels.height,
});

/** A picture without pixels: its shape, its name, and why where there is a reason. */
function paintFrame(context: Context, drawn: PictureQuad, cache: PictureCache): void {
  const { a, b, c, d, e, f } = context.getTransform();
  const width = Math.hypot(a, b);
  const height = Math.hypot(c, d);
  context.fillStyle = 'rgba(128, 128, 128, 0.55)';
  context.fillRect(0, 0, 1, 1);
  // Words are not mirrored with the picture: only place and turn are kept.
  // Of the two ways to undo a mirroring, the one after which they stand upright.
  const isMirrored = a * d - b * c < 0;
  const x = isMirrored && d >= 0 ? -1 : 1;
  const y = isMirrored && d < 0 ? -1 : 1;
  context.setTransform((a / width) * x, (b / width) * x, (c / height) * y, (d / height) * y, e, f);
  context.translate(x < 0 ? -width : 0, y < 0 ? -height : 0);
  context.strokeStyle = 'rgba(250, 250, 249, 0.8)';
  context.lineWidth = 1;
  context.strokeRect(0.5, 0.5, width - 1, height - 1);
  const source = cache.source(drawn.picture);
  if (width < 60 || height < 30 || source === undefined) return;
  context.save();
  context.beginPath();
  context.rect(0, 0, width, height);
  context.clip();
  context.fillStyle = '#fafaf9';
  context.translate(10, 9);
  const [name] = layOut(source.name, { fontSize: 15, lineHeight: 20, width: 10_000 }).lines;
  if (name)
    paintLines(
      context,
      { fontSize: 15, lineHeight: 20, width: width - 20, lines: [name], height: 20 },
      'italic',
    );
  if (source.failure !== null) {
    context.translate(0, 24);
    paintLines(
      context,
      layOut(source.failure, { fontSize: 13, lineHeight: 18, width: Math.max(40, Math.floor(width - 20)) }),
    );
  }
  context.restore();
}

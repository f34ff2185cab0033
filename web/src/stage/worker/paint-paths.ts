import { type Affine, compose, type Point } from '@miradero/core/geometry';
import type { Drawn, Path, PathsOnPicture, PictureQuad } from '@miradero/core/items';

type Context = OffscreenCanvasRenderingContext2D;

const UNIT_SQUARE: readonly Point[] = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];
const clips = new WeakMap<PictureQuad | PathsOnPicture, Path2D>();

/** What is shown of a picture, its place being the unit square. */
export function clipOf(drawn: PictureQuad | PathsOnPicture): Path2D {
  let path = clips.get(drawn);
  if (!path) {
    path = new Path2D();
    for (const { x, y } of drawn.clip ?? UNIT_SQUARE) path.lineTo(x, y);
    path.closePath();
    clips.set(drawn, path);
  }
  return path;
}

/** What a hand drew on a picture, cut off where the picture is; each mark as transparent as a whole. */
export function paintMarksOn(context: Context, drawn: PathsOnPicture, frame: Affine): void {
  const { place, layers } = drawn;
  const onCanvas = compose(frame, [place.width, 0, 0, place.height, place.x, place.y]);
  const opacity = context.globalAlpha;
  context.save();
  context.setTransform(...onCanvas);
  context.clip(clipOf(drawn), 'evenodd');
  for (const layer of layers) {
    context.globalAlpha = opacity * layer.opacity;
    for (const path of layer.paths) paintPath(context, path, compose(onCanvas, layer.toPlace));
  }
  context.restore();
}

const paths = new WeakMap<Path, Path2D>();

function path2dOf(drawn: Path): Path2D {
  let path = paths.get(drawn);
  if (!path) {
    path = new Path2D(drawn.d);
    paths.set(drawn, path);
  }
  return path;
}

/** So near to a whole pixel it is one. */
const HAIR_PX = 0.01;

/** As large as the whole pixels within it, where it is upright and there are any. */
export function withinPixels(frame: Affine, { width, height }: Pick<Drawn, 'width' | 'height'>): Affine {
  const [a, b, c, d, e, f] = frame;
  if (b !== 0 || c !== 0) return frame;
  const [left, top] = [Math.ceil(e - HAIR_PX), Math.ceil(f - HAIR_PX)];
  const across = Math.floor(e + a * width + HAIR_PX) - left;
  const down = Math.floor(f + d * height + HAIR_PX) - top;
  return across < 1 || down < 1 ? frame : [across / width, 0, 0, down / height, left, top];
}

export function paintPath(context: Context, drawn: Path, frame: Affine): void {
  const { fill, stroke } = drawn;
  context.setTransform(...frame);
  const path = path2dOf(drawn);
  if (fill) {
    context.fillStyle = fill;
    context.fill(path);
  }
  if (!stroke) return;
  context.lineWidth = stroke.width;
  context.strokeStyle = stroke.colour;
  context.stroke(path);
}

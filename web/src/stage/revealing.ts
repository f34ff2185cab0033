import {
  addPoints,
  type Camera,
  type Rectangle,
  rectangleAround,
  type Viewport,
} from '@miradero/core/geometry';

/** Space around what is shown whole, CSS pixels. */
export const FIT_MARGIN_PX = 40;
/** What is smaller on the screen is not made out. */
const LEAST_SEEN_PX = 12;

/**
 * Where to look so that a part of the board is in view whole: it moves no farther than it has to, and comes closer or goes back
 * only where the part would be too small or too large to be seen.
 *
 * @param room - what is seen, CSS pixels
 * @param whole - shows the part and nothing else
 * @returns undefined where it is in view already
 */
export function revealing(
  part: Rectangle,
  camera: Camera,
  { width, height }: Viewport,
  whole: Camera,
): Camera | undefined {
  const room = { width: width / camera.scale, height: height / camera.scale };
  const longest = Math.max(part.width, part.height) * camera.scale;
  if (longest < LEAST_SEEN_PX) return { ...whole, scale: Math.min(whole.scale, 1) };
  if (part.width > room.width || part.height > room.height) return whole;
  const margin = FIT_MARGIN_PX / camera.scale;
  const by = (from: number, length: number, seen: number, seenLength: number) =>
    from < seen
      ? from - seen - Math.min(margin, (seenLength - length) / 2)
      : from + length > seen + seenLength
        ? from + length - seen - seenLength + Math.min(margin, (seenLength - length) / 2)
        : 0;
  const { x, y } = rectangleAround(camera.centre, room.width, room.height);
  const shift = {
    x: by(part.x, part.width, x, room.width),
    y: by(part.y, part.height, y, room.height),
  };
  return shift.x === 0 && shift.y === 0 ? undefined : { ...camera, centre: addPoints(camera.centre, shift) };
}

/**
 * The same where something lies over the left of the view.
 *
 * @param coveredPx - width of what lies there, CSS pixels
 * @param wholeIn - shows the part and nothing else, in a view of that size
 */
export function revealingBeside(
  part: Rectangle,
  camera: Camera,
  room: Viewport,
  { coveredPx, wholeIn }: { readonly coveredPx: number; readonly wholeIn: (free: Viewport) => Camera },
): Camera | undefined {
  const free = { ...room, width: room.width - coveredPx };
  const aside = (from: Camera, px: number): Camera => ({
    ...from,
    centre: addPoints(from.centre, { x: px / 2 / from.scale, y: 0 }),
  });
  const to = revealing(part, aside(camera, coveredPx), free, wholeIn(free));
  return to && aside(to, -coveredPx);
}

import { PALETTE_SIZES } from '../colour/index.ts';
import { PENS } from '../freehand/index.ts';
import { type Item, isItemKind, isPictureMark, MOST_CORNERS, MOST_STROKE_POINTS } from '../items/index.ts';
import { LIGHT_PARTS } from '../light/index.ts';
import { isText } from '../text/index.ts';

/** Items of a clipboard at most. */
const MOST = 5_000;

/** Items as they lie on a clipboard. */
export const writeCopied = (items: readonly Item[]): string => JSON.stringify({ miradero: 1, items });

const isNumber = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value);

const isOutline = (value: unknown): boolean =>
  value === 'ellipse' ||
  (Array.isArray(value) &&
    value.length >= 3 &&
    value.length <= MOST_CORNERS &&
    value.every((at) => Array.isArray(at) && at.length === 2 && at.every(isNumber)));

const isSwatch = (value: unknown): boolean => {
  const { hex, share, name } = (value ?? {}) as Record<string, unknown>;
  return /^#[0-9a-f]{6}$/.test(String(hex)) && isNumber(share) && typeof name === 'string';
};
const areSwatches = (value: unknown): boolean =>
  Array.isArray(value) && value.length > 0 && value.length <= PALETTE_SIZES.most && value.every(isSwatch);

/** Colours of light and shadow, a direction, and marks, as a lit ball is drawn from them. */
function isLight({ colours, direction, marks }: Record<string, unknown>): boolean {
  const given = colours as Record<string, unknown> | null;
  const { azimuthDeg, elevationDeg } = (direction ?? {}) as Record<string, unknown>;
  const isColour = (value: unknown) => value === null || /^#[0-9a-f]{6}$/.test(String(value));
  return (
    typeof given === 'object' &&
    given !== null &&
    LIGHT_PARTS.every((part) => isColour(given[part])) &&
    [azimuthDeg, elevationDeg].every(isNumber) &&
    Array.isArray(marks)
  );
}

/** A pen, an ink, and where it was, as a mark is drawn from them. */
const isStroke = ({ pen, ink, nib, smoothing, seed, proportion, points }: Record<string, unknown>): boolean =>
  typeof pen === 'string' &&
  Object.hasOwn(PENS, pen) &&
  /^#[0-9a-f]{6}$/.test(String(ink)) &&
  [nib, smoothing, seed, proportion].every(isNumber) &&
  Number(nib) > 0 &&
  Number(proportion) > 0 &&
  Array.isArray(points) &&
  points.length >= 4 &&
  points.length <= 4 * MOST_STROKE_POINTS &&
  points.every(isNumber);

/** Whether something can be drawn and altered like an item; whether it may stand here, the server says. */
function isDrawable(value: unknown): value is Item {
  if (typeof value !== 'object' || value === null) return false;
  const item = value as Record<string, unknown>;
  const centre = item.centre as Record<string, unknown> | null | undefined;
  // Paper is no thing that is copied from board to board.
  if (item.kind === 'sheet') return false;
  if (!isItemKind(item.kind) || typeof item.id !== 'string' || typeof item.stack !== 'string') return false;
  if (typeof centre !== 'object' || centre === null || !isNumber(centre.x) || !isNumber(centre.y))
    return false;
  if (!isNumber(item.width) || item.width <= 0 || !isNumber(item.turn) || !isNumber(item.opacity))
    return false;
  const lengths = ['height', 'scale', 'pictureWidth', 'pictureHeight', 'titleSize'];
  if (lengths.some((name) => item[name] != null && !(isNumber(item[name]) && item[name] > 0))) return false;
  if (item.text !== undefined && !isText(item.text)) return false;
  const texts = ['title', 'site', 'address'];
  if (texts.some((name) => item[name] !== undefined && typeof item[name] !== 'string')) return false;
  const needed = {
    placement: ['trim', 'picture', 'pictureWidth', 'pictureHeight'],
    note: ['text', 'height'],
    palette: ['title', 'swatches'],
    'lit-ball': ['title', 'colours', 'direction', 'marks'],
    mark: ['pen', 'ink', 'points'],
    'picture-mark': ['pen', 'ink', 'points', 'on'],
  } as const;
  const names: readonly string[] = needed[item.kind as keyof typeof needed] ?? ['title'];
  if (names.some((name) => item[name] == null)) return false;
  if (item.kind === 'palette') return areSwatches(item.swatches);
  if (item.kind === 'lit-ball') return isLight(item);
  if (item.kind === 'mark' || item.kind === 'picture-mark') return isStroke(item);
  if (item.kind !== 'placement') return item.kind === 'link' || isNumber(item.height);
  const trim = item.trim as Record<string, unknown>;
  return (
    ['x', 'y', 'width', 'height'].every((side) => isNumber(trim[side])) &&
    Number(trim.width) > 0 &&
    Number(trim.height) > 0 &&
    (trim.lean === undefined || isNumber(trim.lean)) &&
    (trim.outline === undefined || isOutline(trim.outline))
  );
}

/** Reads items from a clipboard. @returns undefined for what is none, or too much */
export function readCopied(text: string): Item[] | undefined {
  try {
    const read = JSON.parse(text) as { miradero?: unknown; items?: unknown } | null;
    if (read?.miradero !== 1 || !Array.isArray(read.items)) return undefined;
    if (read.items.length === 0 || read.items.length > MOST || !read.items.every(isDrawable))
      return undefined;
    const items = read.items as Item[];
    const ids = new Set(items.map(({ id }) => id));
    // What lay in a cluster that was not copied lies in none; marks on a picture that was not are nowhere.
    const all = items.filter((item) => !isPictureMark(item) || ids.has(item.on));
    if (all.length === 0) return undefined;
    return all.map((item) => ({
      ...item,
      removed: false,
      cluster: item.cluster && ids.has(item.cluster) ? item.cluster : null,
    }));
  } catch {
    return undefined;
  }
}

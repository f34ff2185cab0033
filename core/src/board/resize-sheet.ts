import { type Anchor, changePaper, pixelsOfSheet, setupOfPixels } from '../easel/index.ts';
import { isPictureMark, layOfSheet, type SheetItem } from '../items/index.ts';
import type { Item, Operation } from '../schema/index.ts';
import { moveBy, sizeAbout } from './altering.ts';

interface Size {
  readonly width: number;
  readonly height: number;
}

/** What lies on the desk of a sheet and goes with it; what is drawn on a picture goes with that picture. */
const lying = (items: Iterable<Item>, sheet: SheetItem): Item[] =>
  [...items].filter((item) => !item.removed && item.id !== sheet.id && !isPictureMark(item));

const laid = (sheet: SheetItem, next: Size, guides: SheetItem['guides']): Operation => ({
  item: sheet.id,
  set: { ...layOfSheet(setupOfPixels(sheet.setup, next)), guides },
});

/**
 * Scales a sheet and everything on its desk. Pictures keep their proportions: where the sheet's alter, they follow the side
 * that gains less, and their places follow both.
 *
 * @param next - its trimmed sides then, whole pixels
 */
export function scaleSheet(items: Iterable<Item>, sheet: SheetItem, next: Size): Operation[] {
  const { trimmed } = pixelsOfSheet(sheet.setup);
  const [x, y] = [next.width / trimmed.width, next.height / trimmed.height];
  const factor = Math.min(x, y);
  const things = lying(items, sheet);
  const sized = sizeAbout(things, { x: 0, y: 0 }, factor);
  const centres = new Map(things.map(({ id, centre }) => [id, centre]));
  const placed = sized.map((operation): Operation => {
    const centre = 'item' in operation ? centres.get(operation.item) : undefined;
    if (!centre || !('set' in operation)) return operation;
    return { ...operation, set: { ...operation.set, centre: { x: centre.x * x, y: centre.y * y } } };
  });
  const guides = {
    x: sheet.guides.x.map((at) => at * x),
    y: sheet.guides.y.map((at) => at * y),
  };
  return [laid(sheet, next, guides), ...placed];
}

/** Gives a sheet other paper: nothing is scaled; it is cut, or gets room, about an anchor. @param next - its trimmed sides then, whole pixels */
export function changeSheetPaper(
  items: Iterable<Item>,
  sheet: SheetItem,
  next: Size,
  anchor: Anchor,
): Operation[] {
  const { offset } = changePaper(pixelsOfSheet(sheet.setup).trimmed, next, anchor);
  const guides = {
    x: sheet.guides.x.map((at) => at + offset.x),
    y: sheet.guides.y.map((at) => at + offset.y),
  };
  const moved = offset.x === 0 && offset.y === 0 ? [] : moveBy(lying(items, sheet), offset);
  return [laid(sheet, next, guides), ...moved];
}

import { applyAffine, invertAffine, type Point } from '@miradero/core/geometry';
import { type Item, kindOf, ownFrame } from '@miradero/core/items';
import { lensOf } from '@miradero/core/lens';
import type { Command } from '../commands/index.ts';
import { type Desk, inGroup, NOTHING_HERE, type Offer } from '../desk/index.ts';
import { HELD_TOOLS } from '../tools/index.ts';
import type { KindInInterface } from './kind.ts';
import { KINDS_IN_INTERFACE } from './table.ts';

export const kindInInterface = (item: Item): KindInInterface<Item> =>
  KINDS_IN_INTERFACE[item.kind] as unknown as KindInInterface<Item>;

/** An item's own name, else what its kind is called. */
export const nameOfItem = (desk: Desk, item: Item): string =>
  kindInInterface(item).nameOf(desk, item) || kindOf(item).title;

/** Opens an item where its kind can be opened. @returns whether it was */
export function openItem(desk: Desk, id: string): boolean {
  const item = desk.session.items.get(id);
  const kind = item && kindInInterface(item);
  if (!item || !kind?.open) return false;
  kind.open(desk, item);
  return true;
}

/** How far beside what can be pressed on an item a press still counts, CSS pixels. */
const SLACK_PX = { mouse: 2, pen: 4, touch: 12 } as const;

/** Presses what can be pressed on an item at a point of the board. @param scale - CSS pixels of a board unit */
export function tapItem(
  desk: Desk,
  id: string,
  at: Point,
  { scale, pointerType, isFollowing }: { scale: number; pointerType: string; isFollowing: boolean },
): boolean {
  const item = desk.session.items.get(id);
  const kind = item && kindInInterface(item);
  if (!item || !kind?.tap) return false;
  const own = applyAffine(invertAffine(ownFrame(item)), at);
  const slack = (SLACK_PX[pointerType as keyof typeof SLACK_PX] ?? SLACK_PX.mouse) / scale;
  return kind.tap(desk, item, own, slack, isFollowing);
}

/** Fetches what opening items needs that is not part of the page. */
export const fetchAhead = (): void => {
  for (const kind of Object.values(KINDS_IN_INTERFACE)) kind.ahead?.();
};

/** Enter: ends what a tool is doing, else selects where one has walked to, else opens what keys act on: a picture comes close. */
function confirm(desk: Desk): void {
  if (desk.tool) desk.tool.confirm?.(desk);
  else if (desk.isWalking) desk.select([desk.now.walkedTo!]);
  else if (desk.targets.length === 0) desk.say('Nothing to open.', [NOTHING_HERE]);
  else if (!desk.targets.some(({ id }) => openItem(desk, id))) desk.comeClose();
}

export const ITEM_COMMANDS: readonly Command[] = [
  ...inGroup('Select', [['edit-note', 'edit', 'Enter', confirm]]),
  ...Object.values(KINDS_IN_INTERFACE).flatMap(({ actions = [] }) => actions),
];

const FOR_MANY = [
  'lay-out',
  'look',
  'read',
  'take-out',
  'settle',
  'cluster',
  'spare',
  'fit-selection',
  'flip',
  'turn',
  'fade',
  'fainter',
  'stronger',
  'multiply',
  'raise',
  'lower',
  'duplicate',
  'remove',
];
const FOR_NOTHING = [
  ...['bring-in', 'write', 'lay-out', 'look', 'read', 'take-out', 'choose-files', 'paste'],
  ...Object.values(KINDS_IN_INTERFACE)
    .flatMap(({ making = [] }) => making)
    .filter((id) => id !== 'write'),
  'whole-board',
];

/** Kinds in which there are pictures, whose colours are read. */
const HAVE_COLOURS: ReadonlySet<string> = new Set(['placement', 'cluster', 'bay']);

/** What an item's kind offers first stands before what every item has. */
const FIRST = 5;

/** What can be done right now: what the tool offers, else what can be done with what is selected. */
export function offerOf(desk: Desk): Offer {
  const offer = plainOfferOf(desk);
  // Nobody shall take what a lens shows for what is there.
  const { lenses } = desk.now;
  if (lenses.length === 0) return offer;
  const words = lenses.map(({ lens }) => lensOf(lens).words).join(', ');
  return { ...offer, title: offer.title || words, ids: ['no-lens', ...offer.ids] };
}

function plainOfferOf(desk: Desk): Offer {
  const { held, tool } = desk.now;
  if (held) return HELD_TOOLS[held].offer(desk);
  if (tool) return tool.offer(desk);
  // Thousands are counted, and not put in order for that.
  const { size } = desk.selection;
  if (size > 1) return { title: `${size} selected`, ids: FOR_MANY };
  const [only] = desk.selected;
  if (only) {
    const { offers, offersFirst, on } = kindInInterface(only);
    const read = HAVE_COLOURS.has(only.kind) ? ['read'] : [];
    const first = offersFirst?.(desk, only) ?? [];
    const ids = [...first, ...offers.slice(0, FIRST), ...read, 'take-out', ...offers.slice(FIRST)];
    return { title: nameOfItem(desk, only), ids, ...(on && { on: on(only) }) };
  }
  return { title: '', ids: FOR_NOTHING, hint: 'Drop files anywhere.' };
}

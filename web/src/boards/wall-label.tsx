import { boundsOf, type Shape } from '@miradero/core/board';
import {
  boardToScreen,
  centreOf,
  distance,
  intersectionOf,
  type Point,
  type Rectangle,
} from '@miradero/core/geometry';
import type { Item } from '@miradero/core/schema';
import { useEffect, useLayoutEffect, useRef } from 'react';
import type { Desk } from '../desk/index.ts';
import { ItemLabel } from '../items/index.ts';
import type { StageView } from '../stage/index.ts';
import { useMade, useStore } from '../state/index.ts';
import { selectionOnScreen } from '../tools/index.ts';

const WIDTH = 244;
const GAP = 14;
/** Things standing near the picture along whose edges the label may stand. */
const EDGES_CONSIDERED = 8;
/** Of a full board only the nearest things count as what the label may cover. */
const NEAR_CONSIDERED = 80;
/** Words over words are so much worse than words over a picture. */
const CARD_WEIGHT = 100;

/**
 * Where the label stands: beside, above or under the picture where there is room, else along the edges of what stands
 * near, within the view; where it covers least, then nearest. All in CSS pixels of the view.
 *
 * @param cards - other cards that stand above the board
 */
function placeFor(
  view: StageView,
  id: string,
  on: Rectangle,
  card: Shape,
  cards: readonly Rectangle[],
): Point {
  const { width, height } = view.viewport;
  const { scale } = view.camera;
  const toView = (r: Rectangle): Rectangle => {
    const { x, y } = boardToScreen(view.camera, view.viewport, r);
    return { x, y, width: r.width * scale, height: r.height * scale };
  };
  const middle = centreOf(on);
  const standing = view.feed
    .itemsWithin(view.view)
    .map((item) => ({ id: item.id, area: toView(boundsOf(item)) }))
    .sort((a, b) => distance(centreOf(a.area), middle) - distance(centreOf(b.area), middle))
    .slice(0, NEAR_CONSIDERED);
  const beside = [on, ...cards, ...standing.slice(0, EDGES_CONSIDERED).map(({ area }) => area)];
  const xs = beside.flatMap((r) => [r.x + r.width + GAP, r.x - GAP - card.width, r.x]);
  const ys = beside.flatMap((r) => [r.y, r.y + r.height + GAP, r.y - GAP - card.height]);
  const within = (low: number, high: number) => Math.max(GAP, Math.min(low, high - GAP));
  const candidates = xs.flatMap((x) =>
    ys.map((y) => ({ x: within(x, width - card.width), y: within(y, height - card.height) })),
  );
  const costOf = (at: Point) => {
    const area = { ...at, ...card };
    const covered = standing.reduce((sum, other) => {
      const shared = intersectionOf(other.area, area);
      // What the label is about should not be hidden by it.
      return sum + shared.width * shared.height * (other.id === id ? 2 : 1);
    }, 0);
    const lying = cards.reduce((sum, other) => {
      const shared = intersectionOf(other, area);
      return sum + shared.width * shared.height;
    }, 0);
    const [dx, dy] = gapBetween(on, area);
    return covered + lying * CARD_WEIGHT + Math.hypot(dx, dy) + distance(centreOf(area), middle) / 100;
  };
  const costs = candidates.map(costOf);
  return candidates[costs.indexOf(Math.min(...costs))]!;
}

/** Where other cards stand above the same board. */
function cardsBeside(label: HTMLElement): Rectangle[] {
  const room = label.parentElement!;
  const { left, top } = room.getBoundingClientRect();
  return [...room.querySelectorAll<HTMLElement>('[data-on-board]')]
    .map((card) => card.getBoundingClientRect())
    .filter(({ width }) => width > 0)
    .map(({ x, y, width, height }) => ({ x: x - left, y: y - top, width, height }));
}

/** How high a label may be: where a card takes the width of a narrow view at its bottom, it ends above that. */
const heightAbove = (cards: readonly Rectangle[], { width, height }: Shape): number =>
  Math.min(
    height,
    ...cards.filter((card) => card.width > width / 2 && card.y > height / 2).map(({ y }) => y),
  );

/** Empty space between two rectangles, each way; 0 where they meet. */
const gapBetween = (a: Rectangle, b: Rectangle): [number, number] => [
  Math.max(0, b.x - a.x - a.width, a.x - b.x - b.width),
  Math.max(0, b.y - a.y - a.height, a.y - b.y - b.height),
];

/** Everything known about the selected picture, set like the label beside a picture in a museum. */
export function WallLabel({ desk, view }: { desk: Desk; view: StageView }) {
  const isOpen = useStore(desk.store, ({ isLabelOpen, tool }) => isLabelOpen && !tool);
  const { item } = useMade(desk.watch, () => {
    const [selected] = isOpen ? desk.selected : [];
    // What the shelf learns of a picture is on its label, too.
    return { item: selected && desk.session.shown(selected.id), news: desk.sync.shelf.version };
  });
  return item ? <LabelOf desk={desk} view={view} item={item} /> : null;
}

function LabelOf({ desk, view, item }: { desk: Desk; view: StageView; item: Item }) {
  useStore(view.store);
  const card = useRef<HTMLElement>(null);
  const place = useRef(() => {});
  place.current = () => {
    const element = card.current;
    const on = selectionOnScreen(view, [item]);
    if (!element || !on) return;
    const cards = cardsBeside(element);
    element.style.maxHeight = `${heightAbove(cards, view.viewport) - 2 * GAP}px`;
    const size = { width: WIDTH, height: element.offsetHeight };
    const { x, y } = placeFor(view, item.id, on, size, cards);
    element.style.transform = `translate(${Math.round(x)}px, ${Math.round(y)}px)`;
  };
  useLayoutEffect(() => place.current());
  useEffect(() => {
    // What it tells may come later, or unfold.
    const observer = new ResizeObserver(() => place.current());
    observer.observe(card.current!);
    return () => observer.disconnect();
  }, []);
  return (
    <section
      ref={card}
      aria-label="Wall label"
      className="absolute top-0 left-0 z-10 max-h-[calc(100%-28px)] overflow-y-auto border border-line bg-raised px-4 py-3"
      style={{ width: WIDTH }}
    >
      <ItemLabel desk={desk} item={item} />
    </section>
  );
}

import { boardToScreen, distance, type Point } from '@miradero/core/geometry';
import { createPlacement } from '@miradero/core/items';
import type { LaidLens } from '@miradero/core/lens';
import {
  cornersOfRegion,
  movedRegion,
  type RegionCorner,
  regionBetween,
  resizedRegion,
} from '@miradero/core/picture';
import type { Item, Picture, Region } from '@miradero/core/schema';
import { useEffect, useRef } from 'react';
import { sourcesOf } from '../../desk/index.ts';
import { useSync } from '../../shell/index.ts';
import {
  type BoardOnStage,
  type Drag,
  Gestures,
  type Hand,
  type Press,
  SceneFeed,
  StageView,
} from '../../stage/index.ts';

/** A board on which one picture stands, one unit a pixel, its corner at the origin. */
function boardOf({ id, width, height }: Picture): BoardOnStage {
  const item: Item = createPlacement({
    ...{ id, stack: 'a0', picture: id, pictureWidth: width, pictureHeight: height },
    ...{ centre: { x: width / 2, y: height / 2 }, width },
  });
  const items = new Map([[id, item]]);
  return {
    items,
    shown: (wanted) => items.get(wanted),
    previewed: [],
    onAltered: () => () => {},
    onPreview: () => () => {},
  };
}

/** A region that stands marked on the picture, with a word for it. */
export interface MarkedRegion {
  /** Its place among the purposes of the picture. */
  readonly index: number;
  readonly region: Region;
  readonly words: string;
}

/** A region whose corner is met within so far, CSS pixels; a finger is broader. */
const REACH_PX = { mouse: 9, pen: 12, touch: 22 } as const;

/** Looks at the picture; marks a region of it while that is asked for; moves and resizes the one that is held. */
class LoneHand implements Hand {
  readonly #view: StageView;
  readonly #picture: Picture;
  isMarking = false;
  /** What is drawn instead of the held region while it is dragged, or where a new one is being drawn. */
  drawn: Region | undefined;
  marked: readonly MarkedRegion[] = [];
  held: number | undefined;
  onMark: (region: Region) => void = () => {};
  onHold: (index: number | undefined) => void = () => {};
  onAlter: (index: number, region: Region) => void = () => {};

  constructor(view: StageView, picture: Picture) {
    this.#view = view;
    this.#picture = picture;
  }
  pan(deltaPx: Point): void {
    this.#view.pan(deltaPx);
  }
  zoom(pointPx: Point, factor: number): void {
    this.#view.zoom(pointPx, factor);
  }
  hover(): void {}
  secondary(): void {}
  double(): void {
    this.#view.showWholeBoard();
  }

  /** Shares of the picture's sides. */
  #shares(pointPx: Point): Point {
    const { x, y } = this.#view.toBoard(pointPx);
    return { x: x / this.#picture.width, y: y / this.#picture.height };
  }

  #cornerAt({ point, pointerType }: Press, region: Region): RegionCorner | undefined {
    const reach = REACH_PX[pointerType as keyof typeof REACH_PX] ?? REACH_PX.mouse;
    const { camera, viewport } = this.#view;
    return cornersOfRegion(region).find(([, at]) => {
      const onBoard = { x: at.x * this.#picture.width, y: at.y * this.#picture.height };
      return distance(boardToScreen(camera, viewport, onBoard), point) <= reach;
    })?.[0];
  }

  /** The smallest of those under a point: one within another can be reached. */
  #regionAt(pointPx: Point): MarkedRegion | undefined {
    const at = this.#shares(pointPx);
    const isIn = ({ x, y, width, height }: Region) =>
      at.x >= x && at.x <= x + width && at.y >= y && at.y <= y + height;
    return this.marked
      .filter(({ region }) => isIn(region))
      .sort((a, b) => a.region.width * a.region.height - b.region.width * b.region.height)[0];
  }

  #draw(region: Region | undefined): void {
    this.drawn = region;
    this.#view.requestDraw();
  }

  /** @param end - what is done with what was drawn */
  #drawing(make: (to: Point) => Region | undefined, end: (region: Region) => void): Drag {
    return {
      move: (to) => this.#draw(make(this.#shares(to))),
      end: () => {
        const { drawn } = this;
        this.#draw(undefined);
        if (drawn) end(drawn);
      },
      cancel: () => this.#draw(undefined),
    };
  }

  press(press: Press): Drag {
    const from = this.#shares(press.point);
    if (this.isMarking) return this.#drawing((to) => regionBetween(from, to), this.onMark);
    const held = this.marked.find(({ index }) => index === this.held);
    const corner = held && this.#cornerAt(press, held.region);
    if (held && corner)
      return this.#drawing(
        (to) => resizedRegion(held.region, corner, to),
        (region) => this.onAlter(held.index, region),
      );
    const met = this.#regionAt(press.point);
    if (held && met === held)
      return this.#drawing(
        (to) => movedRegion(held.region, { x: to.x - from.x, y: to.y - from.y }),
        (region) => this.onAlter(held.index, region),
      );
    let last = press.point;
    return {
      move: (to) => {
        this.#view.pan({ x: to.x - last.x, y: to.y - last.y });
        last = to;
      },
      end: (isClick) => isClick && this.onHold(met?.index),
      cancel: () => {},
    };
  }
}

/** Corners of the held one are small squares, dark on light. */
const CORNER_PX = 7;

function drawRegions(
  context: CanvasRenderingContext2D,
  view: StageView,
  picture: Picture,
  hand: LoneHand,
): void {
  const onScreen = (at: Point) =>
    boardToScreen(view.camera, view.viewport, { x: at.x * picture.width, y: at.y * picture.height });
  const draw = (region: Region, words: string, isHeld: boolean) => {
    const { x, y } = onScreen(region);
    const end = onScreen({ x: region.x + region.width, y: region.y + region.height });
    const [w, h] = [end.x - x, end.y - y];
    context.lineWidth = 1;
    context.strokeStyle = 'rgba(20, 20, 20, 0.9)';
    context.strokeRect(x - 0.5, y - 0.5, w + 1, h + 1);
    context.strokeStyle = 'rgba(255, 255, 255, 0.95)';
    context.strokeRect(x - 1.5, y - 1.5, w + 3, h + 3);
    if (isHeld)
      for (const [, corner] of cornersOfRegion(region)) {
        const at = onScreen(corner);
        context.fillStyle = '#fafaf9';
        context.fillRect(at.x - CORNER_PX / 2 - 1, at.y - CORNER_PX / 2 - 1, CORNER_PX + 2, CORNER_PX + 2);
        context.fillStyle = '#1d1d1b';
        context.fillRect(at.x - CORNER_PX / 2, at.y - CORNER_PX / 2, CORNER_PX, CORNER_PX);
      }
    if (!words) return;
    const width = context.measureText(words).width + 10;
    context.fillStyle = 'rgba(250, 250, 249, 0.92)';
    context.fillRect(x - 2, y - 22, width, 20);
    context.fillStyle = '#1d1d1b';
    context.fillText(words, x + 3, y - 7);
  };
  context.font = 'italic 14px "Newsreader Variable", Georgia, serif';
  for (const { index, region, words } of hand.marked) {
    const isHeld = index === hand.held;
    draw((isHeld && hand.drawn) || region, words, isHeld);
  }
  if (hand.drawn && (hand.isMarking || hand.held === undefined)) draw(hand.drawn, '', false);
}

/**
 * One picture alone, whole at first; regions of it stand marked. New ones are drawn while `onMark` is there; one that was
 * pressed is held: its inside moves it, its corners resize it.
 */
export function LoneStage({
  picture,
  marked,
  held,
  onMark,
  onHold,
  onAlter,
  lenses,
}: {
  picture: Picture;
  marked: readonly MarkedRegion[];
  /** The place of the held one among the purposes. */
  held: number | undefined;
  onMark: ((region: Region) => void) | undefined;
  onHold: (index: number | undefined) => void;
  onAlter: (index: number, region: Region) => void;
  lenses: readonly LaidLens[];
}) {
  const { shelf } = useSync();
  const holder = useRef<HTMLDivElement>(null);
  const live = useRef<{ view: StageView; hand: LoneHand }>(undefined);
  const first = useRef(picture);
  useEffect(() => {
    const feed = new SceneFeed(boardOf(first.current), sourcesOf(shelf));
    const view = new StageView(holder.current!, feed);
    const hand = new LoneHand(view, first.current);
    const gestures = new Gestures(holder.current!, hand, (event) => view.pointOf(event));
    view.overlay = (context) => drawRegions(context, view, first.current, hand);
    live.current = { view, hand };
    return () => {
      live.current = undefined;
      gestures.close();
      view.close();
      feed.close();
    };
  }, [shelf]);
  useEffect(() => {
    if (!live.current) return;
    const { view, hand } = live.current;
    Object.assign(hand, { isMarking: onMark !== undefined, onMark: onMark ?? (() => {}) });
    Object.assign(hand, { marked, held, onHold, onAlter });
    view.requestDraw();
  });
  useEffect(() => {
    if (live.current) live.current.view.lenses = lenses;
  }, [lenses]);
  return (
    <div className="relative min-h-0 min-w-0 flex-1 bg-[#797979]">
      <div
        ref={holder}
        className={`stage is-lone ${onMark ? 'is-trimming' : ''}`}
        role="application"
        aria-label={picture.name}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: the stage takes keys
        tabIndex={0}
      />
    </div>
  );
}

import { boardToScreen, type Point } from '@miradero/core/geometry';
import { createPlacement } from '@miradero/core/items';
import type { Item, Picture, Region } from '@miradero/core/schema';
import { useEffect, useRef } from 'react';
import { sourcesOf } from '../../desk/index.ts';
import { useSync } from '../../shell/index.ts';
import {
  type BoardOnStage,
  type Drag,
  Gestures,
  type Hand,
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
  readonly region: Region;
  readonly words: string;
}

/** Looks at the picture; marks a region of it while that is asked for. */
class LoneHand implements Hand {
  readonly #view: StageView;
  readonly #picture: Picture;
  isMarking = false;
  band: { from: Point; to: Point } | undefined;
  onMark: (region: Region) => void = () => {};

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
  press({ point }: { point: Point }): Drag {
    let last = point;
    return {
      move: (to) => {
        if (this.isMarking) {
          this.band = { from: this.#view.toBoard(point), to: this.#view.toBoard(to) };
          this.#view.requestDraw();
          return;
        }
        this.#view.pan({ x: to.x - last.x, y: to.y - last.y });
        last = to;
      },
      end: () => {
        const region = this.band && regionOf(this.band, this.#picture);
        this.band = undefined;
        if (region) this.onMark(region);
        this.#view.requestDraw();
      },
      cancel: () => {
        this.band = undefined;
        this.#view.requestDraw();
      },
    };
  }
}

/** The part of a picture between two points, cut off at its edges; undefined where nothing is left. */
function regionOf({ from, to }: { from: Point; to: Point }, { width, height }: Picture): Region | undefined {
  const within = (value: number, most: number) => Math.min(1, Math.max(0, value / most));
  const [x0, x1] = [within(Math.min(from.x, to.x), width), within(Math.max(from.x, to.x), width)];
  const [y0, y1] = [within(Math.min(from.y, to.y), height), within(Math.max(from.y, to.y), height)];
  if (x1 - x0 < 0.004 || y1 - y0 < 0.004) return undefined;
  const round = (value: number) => Math.round(value * 1e4) / 1e4;
  return { x: round(x0), y: round(y0), width: round(x1 - x0), height: round(y1 - y0) };
}

function drawRegions(
  context: CanvasRenderingContext2D,
  view: StageView,
  picture: Picture,
  marked: readonly MarkedRegion[],
  band: { from: Point; to: Point } | undefined,
): void {
  const regions = band ? [...marked, { region: regionOf(band, picture), words: '' }] : marked;
  context.font = 'italic 14px "Newsreader Variable", Georgia, serif';
  for (const { region, words } of regions) {
    if (!region) continue;
    const corner = { x: region.x * picture.width, y: region.y * picture.height };
    const { x, y } = boardToScreen(view.camera, view.viewport, corner);
    const [w, h] = [
      region.width * picture.width * view.camera.scale,
      region.height * picture.height * view.camera.scale,
    ];
    context.lineWidth = 1;
    context.strokeStyle = 'rgba(20, 20, 20, 0.9)';
    context.strokeRect(x - 0.5, y - 0.5, w + 1, h + 1);
    context.strokeStyle = 'rgba(255, 255, 255, 0.95)';
    context.strokeRect(x - 1.5, y - 1.5, w + 3, h + 3);
    if (!words) continue;
    const width = context.measureText(words).width + 10;
    context.fillStyle = 'rgba(250, 250, 249, 0.92)';
    context.fillRect(x - 2, y - 22, width, 20);
    context.fillStyle = '#1d1d1b';
    context.fillText(words, x + 3, y - 7);
  }
}

/** One picture alone, whole at first; regions of it stand marked, and new ones are drawn while `onMark` is there. */
export function LoneStage({
  picture,
  marked,
  onMark,
}: {
  picture: Picture;
  marked: readonly MarkedRegion[];
  onMark: ((region: Region) => void) | undefined;
}) {
  const { shelf } = useSync();
  const holder = useRef<HTMLDivElement>(null);
  const live = useRef<{ view: StageView; hand: LoneHand }>(undefined);
  const shown = useRef(marked);
  shown.current = marked;
  const first = useRef(picture);
  useEffect(() => {
    const feed = new SceneFeed(boardOf(first.current), sourcesOf(shelf));
    const view = new StageView(holder.current!, feed, undefined);
    const hand = new LoneHand(view, first.current);
    const gestures = new Gestures(holder.current!, hand, (event) => view.pointOf(event));
    view.overlay = (context) => drawRegions(context, view, first.current, shown.current, hand.band);
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
    hand.isMarking = onMark !== undefined;
    hand.onMark = onMark ?? (() => {});
    view.requestDraw();
  });
  return (
    <div className="relative min-h-0 min-w-0 flex-1 bg-[#797979]">
      <div
        ref={holder}
        className={`stage ${onMark ? 'is-trimming' : ''}`}
        role="application"
        aria-label={picture.name}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: the stage takes keys
        tabIndex={0}
      />
    </div>
  );
}

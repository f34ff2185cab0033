import { boundsOf, cornersOf, rowsOf, seenAs, textMatcher } from '@miradero/core/board';
import { boardToScreen } from '@miradero/core/geometry';
import { isPlacement, wordsOf } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import { createElement, useEffect, useState } from 'react';
import type { Desk, Tool } from '../desk/index.ts';
import type { StageView } from '../stage/index.ts';
import { createStore, type StoreApi, useMade, useStore } from '../state/index.ts';
import { SELECT } from '../tools/index.ts';

/** Everything by which an item is found: its name or text, and what was said of its picture. */
function textOf(desk: Desk, item: Item): string {
  const { shelf } = desk.sync;
  const words = wordsOf(item, (picture) => shelf.get(picture)?.name);
  const known = isPlacement(item) ? shelf.get(item.picture)?.picture : undefined;
  if (!known) return words;
  const { tags, purposes, note, source } = known;
  return [
    words,
    ...tags,
    ...purposes.map(({ purpose, word = '' }) => `${purpose} ${word}`),
    note,
    source.creator ?? '',
  ].join(' ');
}

/** What is found, in reading order. */
function hitsOn(desk: Desk, query: string): string[] {
  const isHit = textMatcher(query);
  const { items } = desk.session;
  const hits = new Set<Item>();
  for (const item of items.values()) {
    // What is folded away is found in its cover.
    const seen = isHit(textOf(desk, item)) ? seenAs(items, item) : undefined;
    if (seen) hits.add(seen);
  }
  return rowsOf(hits).flat();
}

interface Found {
  readonly query: string;
  /** The one that was gone to last. */
  readonly at: string | undefined;
}

const DIMMED = 'rgba(20, 20, 20, 0.55)';
const LIT_PX = 2;
const AT_PX = 4;

/** What was looked for last on a board is offered again. */
const lastQuery = new WeakMap<Desk, string>();

/** Looks for words on the board: what has them is lit, the rest dimmed; Enter goes from one to the next. */
class Finding implements Tool {
  readonly id = 'find';
  readonly store: StoreApi<Found>;
  #hits: { query: string; version: number; news: number; ids: readonly string[] } | undefined;
  #layer: OffscreenCanvas | undefined;

  constructor(query: string) {
    this.store = createStore<Found>(() => ({ query, at: undefined }));
  }

  hits(desk: Desk): readonly string[] {
    const { query } = this.store.getState();
    const { version } = desk.session;
    const news = desk.sync.shelf.version;
    if (this.#hits?.query !== query || this.#hits.version !== version || this.#hits.news !== news)
      this.#hits = { query, version, news, ids: hitsOn(desk, query) };
    return this.#hits.ids;
  }

  ask(desk: Desk, query: string): void {
    this.store.setState({ query, at: undefined });
    lastQuery.set(desk, query);
    desk.view?.requestDraw();
  }

  /** Goes on to the next hit, or back. */
  go(desk: Desk, by: 1 | -1): void {
    const hits = this.hits(desk);
    if (hits.length === 0) return;
    const { at } = this.store.getState();
    const from = at === undefined ? (by > 0 ? -1 : 0) : hits.indexOf(at);
    const id = hits[(from + by + hits.length) % hits.length]!;
    this.store.setState({ at: id });
    const item = desk.session.items.get(id);
    if (item) desk.view?.visit(boundsOf(item));
  }

  press: Tool['press'] = SELECT.press;
  offer = () => ({ title: 'Find', ids: [], hint: 'Enter goes from one to the next, Shift Enter back.' });
  Surface: NonNullable<Tool['Surface']> = (where) => createElement(FindLine, { ...where, finding: this });

  overlay: NonNullable<Tool['overlay']> = ({ desk, view }, context) => {
    if (this.store.getState().query.trim() === '') return;
    const { at } = this.store.getState();
    const { width, height } = view.viewport;
    const ratio = view.canvas.width / Math.max(1, width);
    const corners = this.hits(desk).flatMap((id) => {
      const item = desk.session.shown(id);
      return item
        ? [{ id, points: cornersOf(item).map((p) => boardToScreen(view.camera, view.viewport, p)) }]
        : [];
    });
    const trace = (
      to: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D,
      points: readonly { x: number; y: number }[],
    ) => {
      to.beginPath();
      for (const [index, { x, y }] of points.entries()) index === 0 ? to.moveTo(x, y) : to.lineTo(x, y);
      to.closePath();
    };
    // Hits may lie over each other: each is cut out of one layer.
    if (this.#layer?.width !== view.canvas.width || this.#layer.height !== view.canvas.height)
      this.#layer = new OffscreenCanvas(view.canvas.width, view.canvas.height);
    const layer = this.#layer.getContext('2d')!;
    layer.setTransform(ratio, 0, 0, ratio, 0, 0);
    layer.globalCompositeOperation = 'copy';
    layer.fillStyle = DIMMED;
    layer.fillRect(0, 0, width, height);
    layer.globalCompositeOperation = 'destination-out';
    for (const { points } of corners) {
      trace(layer, points);
      layer.fill();
    }
    context.drawImage(this.#layer, 0, 0, width, height);
    for (const { id, points } of corners) {
      context.lineWidth = id === at ? AT_PX : LIT_PX;
      context.strokeStyle = '#fafaf9';
      trace(context, points);
      context.stroke();
    }
  };

  /** What was gone to is selected: what is done next is done to it. */
  leave(desk: Desk): void {
    const { at } = this.store.getState();
    if (at !== undefined && desk.session.items.get(at)?.removed === false) desk.select([at]);
    desk.view?.requestDraw();
  }
}

function FindLine({ desk, view, finding }: { desk: Desk; view: StageView; finding: Finding }) {
  const { query, at } = useStore(finding.store, (found) => found);
  const { hits } = useMade(desk.watch, () => ({ hits: finding.hits(desk) }));
  const [typed, setTyped] = useState(query);
  useEffect(() => view.requestDraw(), [view, hits]);
  const place = at === undefined ? -1 : hits.indexOf(at);
  const said =
    query.trim() === ''
      ? ''
      : hits.length === 0
        ? 'nothing'
        : place < 0
          ? `${hits.length}`
          : `${place + 1} of ${hits.length}`;
  return (
    <search
      data-on-board
      className="absolute top-3 left-3 z-10 flex max-w-[calc(100%-24px)] items-center gap-2 border border-line bg-raised px-3 py-1.5"
    >
      <input
        // biome-ignore lint/a11y/noAutofocus: it opens because the person asked to find something
        autoFocus
        aria-label="Find on this board"
        placeholder="find by word"
        className="w-56 min-w-0 bg-transparent font-serif text-[16px] text-ink outline-none"
        value={typed}
        maxLength={200}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setTyped(event.target.value);
          finding.ask(desk, event.target.value);
        }}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Enter') finding.go(desk, event.shiftKey ? -1 : 1);
          if (event.key !== 'Escape') return;
          view.focus();
          desk.leaveTool();
        }}
      />
      <output aria-live="polite" className="figures whitespace-nowrap text-[13px] text-muted">
        {said}
      </output>
      {hits.length > 0 && (
        <button
          type="button"
          className="text-[13px] underline decoration-1 underline-offset-3"
          onClick={() => finding.go(desk, 1)}
        >
          next
        </button>
      )}
      <button
        type="button"
        className="text-[13px] underline decoration-1 underline-offset-3"
        onClick={() => {
          view.focus();
          desk.leaveTool();
        }}
      >
        done
      </button>
    </search>
  );
}

export const startFinding = (desk: Desk): void => desk.take(new Finding(lastQuery.get(desk) ?? ''), []);

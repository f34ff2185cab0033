import type { Camera } from '@miradero/core/geometry';
import { type LaidLens, LENS_IDS } from '@miradero/core/lens';
import { isPaneTree, type PaneTree, panesOf, splitPane, withoutPane } from '@miradero/core/perch';
import { isShows, type Shows } from '../shell/index.ts';
import { AS_IT_IS, type Orientation, wrapDegrees } from '../stage/index.ts';
import { createStore, type Readable, type StoreApi } from '../state/index.ts';
import { keep, readKept } from './kept.ts';

/** One pane: what it shows, and how it is looked at. */
export interface PaneState {
  readonly shows: Shows;
  /** Where it looked last; undefined: all of it. */
  readonly camera?: Camera | undefined;
  readonly lenses: readonly LaidLens[];
  /** How much of the pictures is seen against the surround, 0..1. */
  readonly opacity: number;
  readonly orientation: Orientation;
  /** Munsell value of its ground; null: that of its board. */
  readonly surround: number | null;
  readonly areNotesHidden: boolean;
}

/** All of the board, what was shown last, or the working set of the stage the board is at. */
export const OPENS = ['board', 'last', 'stage'] as const;
export type Opens = (typeof OPENS)[number];

/** Everything that brings a perch back as it was. */
export interface Arrangement {
  readonly tree: PaneTree;
  readonly panes: Readonly<Record<string, PaneState>>;
  /** The pane that keys act on. */
  readonly front: string;
  readonly isBare: boolean;
  /** Its front pane shows what is selected on the board. */
  readonly isFollowing: boolean;
  /** Resting on a picture brings it close. */
  readonly isHoverLook: boolean;
  readonly hoverMs: number;
  /** Where its controls come up. */
  readonly edge: 'bottom' | 'top';
  /** What the key opens while a board is in front and nothing on it selected. */
  readonly opens: Opens;
  /** Of the floating window, CSS pixels. */
  readonly size: { readonly width: number; readonly height: number };
}

const HOVER_MS = 600;
const USUAL_SIZE = { width: 480, height: 360 };
export const HOVER_RANGE_MS = { least: 150, most: 3_000 } as const;
export const LEAST_OPACITY = 0.1;

export const paneShowing = (shows: Shows): PaneState => ({
  ...{ shows, lenses: [], opacity: 1, orientation: AS_IT_IS, surround: null, areNotesHidden: false },
});

export const arrangementShowing = (shows: Shows): Arrangement => ({
  ...{ tree: { pane: 'a' }, panes: { a: paneShowing(shows) }, front: 'a' },
  ...{ isBare: false, isFollowing: false, isHoverLook: false, hoverMs: HOVER_MS, edge: 'bottom' },
  ...{ opens: 'board', size: USUAL_SIZE },
});

const isBetween = (value: unknown, least: number, most: number): value is number =>
  typeof value === 'number' && value >= least && value <= most;

function readCamera(value: unknown): Camera | undefined {
  const { scale, centre } = (value ?? {}) as Partial<Camera>;
  const isWhole = [scale, centre?.x, centre?.y].every(Number.isFinite) && (scale ?? 0) > 0;
  return isWhole ? (value as Camera) : undefined;
}

const isLaid = (value: unknown): value is LaidLens => {
  const { lens, amount, on } = (value ?? {}) as Partial<LaidLens>;
  return LENS_IDS.includes(lens!) && Number.isFinite(amount) && (on === null || Array.isArray(on));
};

function readPane(value: unknown): PaneState | undefined {
  const given = (value ?? {}) as Partial<PaneState>;
  if (!isShows(given.shows)) return undefined;
  const { degrees, isMirrored } = (given.orientation ?? {}) as Partial<Orientation>;
  return {
    ...paneShowing(given.shows),
    camera: readCamera(given.camera),
    lenses: Array.isArray(given.lenses) ? given.lenses.filter(isLaid) : [],
    ...(isBetween(given.opacity, LEAST_OPACITY, 1) && { opacity: given.opacity }),
    ...(isBetween(degrees, 0, 360) && {
      orientation: { degrees: wrapDegrees(degrees), isMirrored: isMirrored === true },
    }),
    ...(isBetween(given.surround, 0, 10) && { surround: given.surround }),
    areNotesHidden: given.areNotesHidden === true,
  };
}

/** An arrangement as it was kept; what of it is torn is as at first. @returns undefined where there is none */
export function readArrangement(text: string | null): Arrangement | undefined {
  let given: Partial<Arrangement>;
  try {
    given = (JSON.parse(text ?? 'null') ?? {}) as Partial<Arrangement>;
  } catch {
    return undefined;
  }
  if (!isPaneTree(given.tree)) return undefined;
  const kept = panesOf(given.tree).map((pane) => [pane, readPane(given.panes?.[pane])] as const);
  if (kept.some(([, pane]) => pane === undefined)) return undefined;
  const panes = Object.fromEntries(kept) as Record<string, PaneState>;
  const first = kept[0]![0];
  return {
    ...arrangementShowing(panes[first]!.shows),
    ...{ tree: given.tree, panes },
    front: given.front !== undefined && given.front in panes ? given.front : first,
    isBare: given.isBare === true,
    isFollowing: given.isFollowing === true,
    isHoverLook: given.isHoverLook === true,
    edge: given.edge === 'top' ? 'top' : 'bottom',
    opens: OPENS.find((one) => one === given.opens) ?? 'board',
    ...(isBetween(given.size?.width, 100, 10_000) &&
      isBetween(given.size?.height, 40, 10_000) && { size: given.size }),
    ...(isBetween(given.hoverMs, HOVER_RANGE_MS.least, HOVER_RANGE_MS.most) && { hoverMs: given.hoverMs }),
  };
}

const KEEP_AFTER_MS = 200;

/** The arrangement of one window of the perch, kept in this browser under a name as it alters. */
export class ArrangementStore {
  readonly name: string;
  readonly #store: StoreApi<Arrangement>;
  #timer: ReturnType<typeof setTimeout> | undefined;

  constructor(name: string, start: Arrangement) {
    this.name = name;
    this.#store = createStore<Arrangement>(() => start);
    this.keep();
  }

  static kept(name: string): Arrangement | undefined {
    return readArrangement(readKept(name));
  }

  get store(): Readable<Arrangement> {
    return this.#store;
  }
  get now(): Arrangement {
    return this.#store.getState();
  }

  set(part: Partial<Arrangement>): void {
    this.#store.setState(part);
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => this.keep(), KEEP_AFTER_MS);
  }

  setPane(pane: string, part: Partial<PaneState>): void {
    const { panes } = this.now;
    const before = panes[pane];
    if (before) this.set({ panes: { ...panes, [pane]: { ...before, ...part } } });
  }

  /** Shows something else in a pane, all of it; how the pane is looked at stays. */
  show(shows: Shows, pane = this.now.front): void {
    this.setPane(pane, { shows, camera: undefined });
  }

  /** Parts a pane in two that show the same. @returns false where there are as many as there may be */
  split(pane: string, side: 'beside' | 'below'): boolean {
    const { tree, panes } = this.now;
    const fresh = [...'abcdefgh'].find((name) => !(name in panes))!;
    const next = splitPane(tree, pane, fresh, side);
    if (!next) return false;
    this.set({
      ...{ tree: next, front: fresh },
      panes: { ...panes, [fresh]: { ...panes[pane]!, camera: undefined } },
    });
    return true;
  }

  /** @returns false for the last one */
  closePane(pane: string): boolean {
    const { tree, panes, front } = this.now;
    const next = withoutPane(tree, pane);
    if (!next) return false;
    const { [pane]: _, ...left } = panes;
    this.set({ tree: next, panes: left, front: front === pane ? panesOf(next)[0]! : front });
    return true;
  }

  /** The next pane comes to the front, around. */
  step(): void {
    const all = panesOf(this.now.tree);
    this.set({ front: all[(all.indexOf(this.now.front) + 1) % all.length]! });
  }

  keep(): void {
    clearTimeout(this.#timer);
    keep(this.name, this.now);
  }
}

import { boundsOf, rowsOf } from '@miradero/core/board';
import { shuffledRound } from '@miradero/core/perch';
import type { Desk } from '../desk/index.ts';
import type { StageView } from '../stage/index.ts';
import { createStore, type Readable } from '../state/index.ts';

export interface SlideshowNow {
  readonly isOn: boolean;
  readonly seconds: number;
  readonly isShuffled: boolean;
}

export const SECONDS_RANGE = { least: 1, most: 600 } as const;
const SECONDS = 8;

/** Brings one picture after another close at a set time, through what is selected or everything that is shown; it waits while the pointer is over it. */
export class Slideshow {
  readonly #desk: Desk;
  readonly #view: StageView;
  readonly #window: Window;
  readonly #store = createStore<SlideshowNow>(() => ({ isOn: false, seconds: SECONDS, isShuffled: false }));
  #timer: number | undefined;
  #order: readonly string[] = [];
  #shown: string | undefined;
  #isHovered = false;

  constructor(desk: Desk, view: StageView, window: Window) {
    this.#desk = desk;
    this.#view = view;
    this.#window = window;
  }

  get store(): Readable<SlideshowNow> {
    return this.#store;
  }

  set(part: Partial<Omit<SlideshowNow, 'isOn'>>): void {
    this.#store.setState(part);
    this.#order = [];
    this.#wait();
  }

  /** @returns false where there is nothing to go through */
  toggle(): boolean {
    if (this.#store.getState().isOn) {
      this.#store.setState({ isOn: false });
      this.#window.clearTimeout(this.#timer);
      this.#view.goBack();
      return true;
    }
    if (this.#pictures().length === 0) return false;
    this.#order = [];
    this.#store.setState({ isOn: true });
    this.#next();
    return true;
  }

  set isHovered(isHovered: boolean) {
    this.#isHovered = isHovered;
    this.#wait();
  }

  close(): void {
    this.#window.clearTimeout(this.#timer);
  }

  #pictures(): string[] {
    const { session, selected } = this.#desk;
    const chosen = selected.filter(({ kind }) => kind === 'placement');
    const all = chosen.length > 1 ? chosen : session.standing.filter(({ kind }) => kind === 'placement');
    return rowsOf(all).flat();
  }

  #wait(): void {
    this.#window.clearTimeout(this.#timer);
    const { isOn, seconds } = this.#store.getState();
    // Whole again after the pointer left: what was looked at is not snatched away.
    if (isOn && !this.#isHovered) this.#timer = this.#window.setTimeout(() => this.#next(), seconds * 1_000);
  }

  #next(): void {
    const all = this.#pictures();
    const here = new Set(all);
    this.#order = this.#order.filter((id) => here.has(id));
    if (this.#order.length === 0) {
      const { isShuffled } = this.#store.getState();
      this.#order = isShuffled ? shuffledRound(all, Math.floor(Math.random() * 2 ** 31), this.#shown) : all;
    }
    const [id, ...rest] = this.#order;
    this.#order = rest;
    const item = id === undefined ? undefined : this.#desk.session.items.get(id);
    // One that is close already would go back.
    if (item && this.#view.closeOn !== item.id) this.#view.comeClose(item.id, boundsOf(item));
    this.#shown = id;
    this.#wait();
  }
}

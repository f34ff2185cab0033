import { boundsOf } from '@miradero/core/board';
import type { Point, Rectangle } from '@miradero/core/geometry';
import { page, type Tool } from '../desk/index.ts';
import { startFinding } from '../looking/index.ts';
import { AS_IT_IS, type StageView, wrapDegrees } from '../stage/index.ts';
import { createStore, type Readable } from '../state/index.ts';
import { comeCloseAt, type Seated } from '../tools/index.ts';
import { type ArrangementStore, LEAST_OPACITY, type PaneState } from './arrangement.ts';
import type { PaneDesk } from './pane-desk.ts';
import { type ColourRead, readColour, readScreen } from './reading.ts';
import { Slideshow } from './slideshow.ts';

export interface PaneShown {
  readonly reading: ColourRead | undefined;
  readonly areNamesOpen: boolean;
}

const FADE_STEP = 0.1;
const READING = 'read-colour';

/** Everything that can be done with one pane of the perch that is open: what its keys, its words and its edges call. */
export class PaneControls {
  readonly pane: string;
  readonly open: PaneDesk;
  readonly view: StageView;
  readonly slideshow: Slideshow;
  readonly #seated: Seated;
  readonly #arrangement: ArrangementStore;
  readonly #window: Window;
  readonly #store = createStore<PaneShown>(() => ({ reading: undefined, areNamesOpen: false }));
  #pointer: Point | undefined;

  constructor(pane: string, open: PaneDesk, seated: Seated, arrangement: ArrangementStore, window: Window) {
    this.pane = pane;
    this.open = open;
    this.view = seated.hand.view;
    this.#seated = seated;
    this.#arrangement = arrangement;
    this.#window = window;
    this.slideshow = new Slideshow(open.desk, this.view, window);
  }

  get store(): Readable<PaneShown> {
    return this.#store;
  }
  get state(): PaneState {
    return this.#arrangement.now.panes[this.pane]!;
  }
  get pointer(): Point {
    const { width, height } = this.view.viewport;
    return this.#pointer ?? { x: width / 2, y: height / 2 };
  }
  set pointer(pointer: Point | undefined) {
    this.#pointer = pointer;
  }

  /** Comes close to what is selected, to what is under the pointer, or in the middle of the view; or goes back. */
  comeClose(): void {
    const { desk } = this.open;
    if (this.view.isClose) this.view.goBack();
    else if (desk.targets.length > 0) desk.comeClose(this.view);
    else comeCloseAt(this.#seated.hand, this.pointer);
  }

  page(to: 'left' | 'right'): void {
    page(this.open.desk, to);
  }

  /** What the perch would fit: what is close, else all of it. */
  #part(): Rectangle | undefined {
    const { desk } = this.open;
    const close = this.view.closeOn === undefined ? undefined : desk.session.items.get(this.view.closeOn);
    return close
      ? boundsOf(close)
      : this.open.part
        ? this.view.feed.extent
        : (this.open.home(this.view.room) ?? this.view.feed.extent);
  }

  fit(along: 'width' | 'height'): void {
    const part = this.#part();
    if (part) this.view.fitAlong(part, along);
  }

  /** Turns what is seen, clockwise as it is seen. */
  turn(byDegrees: number): void {
    this.turnTo(this.state.orientation.degrees + byDegrees);
  }

  turnTo(degrees: number): void {
    this.#set({ orientation: { ...this.state.orientation, degrees: wrapDegrees(degrees) } });
  }

  mirror(): void {
    const { orientation } = this.state;
    this.#set({ orientation: { ...orientation, isMirrored: !orientation.isMirrored } });
  }

  fade(by: 1 | -1): void {
    const opacity = Math.min(1, Math.max(LEAST_OPACITY, this.state.opacity + by * FADE_STEP));
    this.#set({ opacity: Math.round(opacity * 100) / 100 });
  }

  stepSurround(by: 1 | -1): void {
    const now = this.state.surround ?? this.open.desk.session.board.surround;
    this.#set({ surround: Math.min(10, Math.max(0, now + by)) });
  }

  toggleNotes(): void {
    this.#set({ areNotesHidden: !this.state.areNotesHidden });
  }

  /** As its board is: not turned, mirrored, faded or on another ground. */
  plain(): void {
    this.#set({ orientation: AS_IT_IS, opacity: 1, surround: null, areNotesHidden: false });
    this.open.desk.layLenses([]);
  }

  find(): void {
    startFinding(this.open.desk);
  }

  openNames(areNamesOpen: boolean): void {
    this.#store.setState({ areNamesOpen });
    if (!areNamesOpen) this.view.focus();
  }

  /** Reads what is under the pointer; where it is not over the pictures, wherever it presses next, until that is left. */
  async readColour(): Promise<void> {
    if (this.#pointer) await this.#readAt(this.#pointer);
    else if (this.open.desk.tool?.id === READING) this.open.desk.leaveTool();
    else this.open.desk.take(this.#readingTool());
  }

  async #readAt(pointPx: Point): Promise<void> {
    this.#tellRead(await readColour(this.open.desk, this.view, pointPx, this.#window));
  }

  #readingTool(): Tool {
    return {
      id: READING,
      press: (_, { point }) => ({
        move: () => {},
        end: () => void this.#readAt(point),
        cancel: () => {},
      }),
      hover: () => 'crosshair',
      offer: () => ({ title: 'Read a colour', ids: ['escape'], hint: 'Tap where it is read.' }),
    };
  }

  async readScreen(): Promise<void> {
    const read = await readScreen(this.#window);
    if (read) this.#tellRead(read);
  }

  #tellRead(read: ColourRead | string): void {
    if (typeof read === 'string') this.open.desk.say(read);
    this.#store.setState({ reading: typeof read === 'string' ? undefined : read });
  }

  forgetReading(): void {
    this.#store.setState({ reading: undefined });
  }

  toggleSlideshow(): void {
    if (!this.slideshow.toggle()) this.open.desk.say('There are no pictures to go through.');
  }

  /** Escape, one thing at a time. */
  stepBack(): void {
    const { desk } = this.open;
    const { reading, areNamesOpen } = this.#store.getState();
    if (this.#seated.gestures.cancel()) return;
    if (areNamesOpen) this.openNames(false);
    else if (reading) this.forgetReading();
    else if (this.slideshow.store.getState().isOn) this.slideshow.toggle();
    else desk.stepBack(this.view);
  }

  #set(part: Partial<PaneState>): void {
    this.#arrangement.setPane(this.pane, part);
  }
}

import { boundsOf, boundsOfItems, compareStacking, sameValue } from '@miradero/core/board';
import { type Point, unionOf } from '@miradero/core/geometry';
import { kindOf, picturesOf } from '@miradero/core/items';
import { nextOfSeries } from '@miradero/core/picture';
import type { Item, Operation, PatchPicture } from '@miradero/core/schema';
import type { Notice } from '../shell/index.ts';
import { SceneFeed, type StageView } from '../stage/index.ts';
import { type BoardSession, boardAt, newGesture, patchPicture, type Sync } from '../sync/index.ts';
import type { Arrival } from './desk-state.ts';
import type { HeldAction } from './held-action.ts';
import { sourcesOf } from './sources.ts';
import type { ToolOf } from './tool-of.ts';

type Tool = ToolOf<Desk>;

const NOTICE_MS = 8_000;
/** How long what just came waits for a name. */
const NAMING_MS = 15_000;

/** One board on one person's desk: selection, mode and every action. Views and components watch it. */
export class Desk {
  readonly sync: Sync;
  readonly session: BoardSession;
  readonly feed: SceneFeed;
  readonly #listeners = new Set<() => void>();
  #selection: ReadonlySet<string> = new Set();
  #hovered: string | undefined;
  #tool: Tool | undefined;
  #isLabelOpen = false;
  #areControlsHidden = false;
  #arrivals: readonly Arrival[] = [];
  #notice: Notice | undefined;
  #noticeTimer: ReturnType<typeof setTimeout> | undefined;
  #held: HeldAction | undefined;
  #naming: readonly string[] = [];
  #namingTimer: ReturnType<typeof setTimeout> | undefined;
  #wasHeldUsed = false;
  #version = 0;
  readonly #endShelf: () => void;
  readonly #pointerListeners = new Set<() => void>();
  #pointer: Point | undefined;
  /** The view that keys act on. */
  view: StageView | undefined;

  constructor(sync: Sync, session: BoardSession) {
    this.sync = sync;
    this.session = session;
    this.feed = new SceneFeed(session, sourcesOf(sync.shelf));
    session.subscribe(() => this.#dropGone());
    this.#endShelf = sync.shelf.subscribe((pictures) => {
      this.#setSizesRight(pictures);
      this.#tell();
    });
  }

  close(): void {
    clearTimeout(this.#noticeTimer);
    clearTimeout(this.#namingTimer);
    this.#endShelf();
    this.feed.close();
    this.session.close();
    this.#listeners.clear();
  }

  /** For `useSyncExternalStore`: listeners and a number that grows with every alteration. */
  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  version = (): number => this.#version;

  /** Where the pointer is on the board; undefined while it is elsewhere. */
  get pointer(): Point | undefined {
    return this.#pointer;
  }

  /** Says where the pointer is, board units, and on what. */
  point(at: Point | undefined, item: string | undefined): void {
    this.#pointer = at;
    if (item !== this.#hovered) {
      this.#hovered = item;
      this.#tell();
    }
    for (const listener of this.#pointerListeners) listener();
  }

  /** Called at every move of the pointer. @returns a function that ends it */
  onPointer(listener: () => void): () => void {
    this.#pointerListeners.add(listener);
    return () => this.#pointerListeners.delete(listener);
  }

  get selection(): ReadonlySet<string> {
    return this.#selection;
  }
  get hovered(): string | undefined {
    return this.#hovered;
  }
  /** The tool that was taken; undefined while the hand selects. */
  get tool(): Tool | undefined {
    return this.#tool;
  }
  get isLabelOpen(): boolean {
    return this.#isLabelOpen;
  }
  get areControlsHidden(): boolean {
    return this.#areControlsHidden;
  }
  get arrivals(): readonly Arrival[] {
    return this.#arrivals;
  }
  get notice(): Notice | undefined {
    return this.#notice;
  }

  /** The selected items, lowest first. */
  get selected(): Item[] {
    return [...this.#selection].flatMap((id) => this.session.items.get(id) ?? []).sort(compareStacking);
  }

  /** What a key acts on: the selection, else the item under the pointer. */
  get targets(): Item[] {
    if (this.#selection.size > 0) return this.selected;
    const item = this.#hovered === undefined ? undefined : this.session.items.get(this.#hovered);
    return item && !item.removed ? [item] : [];
  }

  select(ids: Iterable<string>): void {
    this.#naming = [];
    this.#selection = new Set(ids);
    if (this.#selection.size === 0) this.#isLabelOpen = false;
    this.#leaveWhatIsOver();
    this.#tell();
  }

  selectAll(): void {
    this.select(this.session.standing.map((item) => item.id));
  }

  toggleLabel(): void {
    if (this.#selection.size === 0) this.select(this.targets.map((item) => item.id));
    this.#isLabelOpen = this.#selection.size > 0 && !this.#isLabelOpen;
    this.#tell();
  }

  toggleControls(): void {
    this.#areControlsHidden = !this.#areControlsHidden;
    this.#tell();
  }

  say(text: string, detail: readonly string[] = []): void {
    this.#notice = { text, detail };
    clearTimeout(this.#noticeTimer);
    this.#noticeTimer = setTimeout(() => this.unsay(), NOTICE_MS);
    this.#tell();
  }

  unsay(): void {
    this.#notice = undefined;
    this.#tell();
  }

  setArrivals(arrivals: readonly Arrival[]): void {
    this.#arrivals = arrivals;
    this.#tell();
  }

  /** Pictures that just came and may be named by typing; none when that time is over. */
  get naming(): readonly string[] {
    return this.#naming;
  }

  offerNaming(pictures: readonly string[]): void {
    this.#naming = pictures;
    clearTimeout(this.#namingTimer);
    this.#namingTimer = setTimeout(() => this.offerNaming([]), NAMING_MS);
    this.#tell();
  }

  /** Somebody is typing: the time to name what came does not run out. */
  holdNaming(): void {
    clearTimeout(this.#namingTimer);
  }

  /** Says something of a picture: shown at once, kept and sent like everything else. */
  patchPicture(id: string, patch: PatchPicture): void {
    void patchPicture(this.sync, id, patch, { at: boardAt(this.session.id) });
  }

  /** Names what came; several become a series. */
  nameArrived(title: string): void {
    const pictures = this.#naming;
    const taken = new Set(this.sync.shelf.names());
    const gesture = newGesture();
    for (const picture of pictures) {
      const name = pictures.length === 1 ? title : nextOfSeries(title, taken);
      taken.add(name);
      this.session.renamePicture(picture, name, { onlyNew: true, gesture });
    }
    this.offerNaming([]);
  }

  fitSelection(): void {
    if (this.targets.length > 0) this.view?.showPart(boundsOfItems(this.targets));
  }

  /** Makes the ground a value step lighter (1) or darker (-1). */
  stepSurround(by: 1 | -1): void {
    const surround = Math.min(10, Math.max(0, this.session.board.surround + by));
    this.session.patchBoard({ surround });
  }

  // Held keys

  get held(): HeldAction | undefined {
    return this.#held;
  }

  /** A key is held: until it is let go, the hand and the wheel mean something else. */
  hold(action: HeldAction): void {
    this.#held = action;
    this.#wasHeldUsed = false;
    this.#tell();
  }

  /** The hand did what the held key is for; letting go is then no tap. */
  useHeld(): void {
    this.#wasHeldUsed = true;
  }

  /** @returns true when the key was only tapped */
  letGo(action: HeldAction): boolean {
    if (this.#held !== action) return false;
    this.#held = undefined;
    this.#tell();
    return !this.#wasHeldUsed;
  }

  comeClose(view = this.view): void {
    const [item] = this.targets;
    if (view?.isClose && (item === undefined || this.#selection.size === 0)) view.goBack();
    else if (item) view?.comeClose(item.id, unionOf(this.targets.map(boundsOf))!);
  }

  // Tools

  /** Takes a tool in the place of what was taken. `ids` are selected for it. */
  take(tool: Tool, ids: Iterable<string> = this.#selection): void {
    this.leaveTool();
    this.#selection = new Set(ids);
    this.#isLabelOpen = false;
    this.#tool = tool;
    this.#tell();
  }

  leaveTool(): void {
    const tool = this.#tool;
    if (!tool) return;
    this.#tool = undefined;
    tool.leave?.(this);
    this.#tell();
  }

  #leaveWhatIsOver(): void {
    if (this.#tool?.isOver?.(this)) this.leaveTool();
  }

  /** Escape: first what was said, then what is being done, then what is selected. */
  escape(): void {
    if (this.#notice) this.unsay();
    else if (this.#tool) this.leaveTool();
    else if (this.#isLabelOpen) this.toggleLabel();
    else this.select([]);
  }

  /** The server read a picture whole: where its sides are others than its head had said, placements follow. */
  #setSizesRight(pictures: ReadonlySet<string>): void {
    const operations = this.session.standing.flatMap((item): Operation[] => {
      return picturesOf(item).flatMap((id): Operation[] => {
        const known = pictures.has(id) ? this.sync.shelf.get(id)?.picture : undefined;
        const set = known && kindOf(item).exchanged?.(item, known, false);
        return set && !sameValue(item, { ...item, ...set }) ? [{ item: item.id, set }] : [];
      });
    });
    this.session.correct(operations);
  }

  /** What was removed, here or elsewhere, is no longer selected. */
  #dropGone(): void {
    const isGone = (id: string) => this.session.items.get(id)?.removed !== false;
    const kept = [...this.#selection].filter((id) => !isGone(id));
    if (kept.length !== this.#selection.size) this.select(kept);
    if (this.#hovered !== undefined && isGone(this.#hovered)) this.#hovered = undefined;
    this.#leaveWhatIsOver();
    this.#tell();
  }

  #tell(): void {
    this.#version += 1;
    for (const listener of this.#listeners) listener();
  }
}

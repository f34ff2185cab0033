import { boundsOf, boundsOfItems, compareStacking, isSeen, movableOf, sameValue } from '@miradero/core/board';
import { type Point, type Rectangle, unionOf } from '@miradero/core/geometry';
import { kindOf, picturesOf } from '@miradero/core/items';
import { type LaidLens, type LensId, lensOf } from '@miradero/core/lens';
import { nextOfSeries } from '@miradero/core/picture';
import type { Item, Operation, PatchPicture } from '@miradero/core/schema';
import type { Notice } from '../shell/index.ts';
import { SceneFeed, type StageView } from '../stage/index.ts';
import { createStore, type Readable, type StoreApi } from '../state/index.ts';
import { boardAt, newGesture, type OpenBoard, patchPicture, type Sync } from '../sync/index.ts';
import type { Arrival, DeskState, Hover } from './desk-state.ts';
import type { HeldAction } from './held-action.ts';
import { sourcesOf } from './sources.ts';
import type { ToolOf } from './tool-of.ts';

type Tool = ToolOf<Desk>;
type State = DeskState<Desk>;

const AT_FIRST: State = {
  selection: new Set(),
  walkedTo: undefined,
  tool: undefined,
  lenses: [],
  heldLenses: undefined,
  held: undefined,
  isLabelOpen: false,
  areControlsHidden: false,
  areLabelsShown: false,
  areGuidesShown: false,
  pinned: new Map(),
  lit: new Set(),
  arrivals: [],
  notice: undefined,
  naming: [],
};

/** Space between items where nobody chose any, board units. */
const USUAL_GAP = 12;
const NOTICE_MS = 8_000;
/** How long what happened while nobody looked stays outlined. */
const LIT_MS = 12_000;
/** How long what just came waits for a name. */
const NAMING_MS = 15_000;

/** One board on one person's desk: selection, tool and every action. Views and components watch its stores. */
export class Desk {
  readonly sync: Sync;
  readonly session: OpenBoard;
  readonly feed: SceneFeed;
  readonly #store: StoreApi<State> = createStore(() => AT_FIRST);
  readonly #hover = createStore<Hover>(() => ({ at: undefined, item: undefined }));
  #noticeTimer: ReturnType<typeof setTimeout> | undefined;
  /** Said once nothing else is. */
  #nextNotice: Notice | undefined;
  #litTimer: ReturnType<typeof setTimeout> | undefined;
  #namingTimer: ReturnType<typeof setTimeout> | undefined;
  #seenThrough: readonly LaidLens[] = [];
  readonly #lensAmounts = new Map<LensId, number>();
  /** What the tool was taken in the place of, for as long as a key is held. */
  #setAside: Tool | undefined;
  #wasHeldUsed = false;
  #selected:
    | { readonly of: ReadonlySet<string>; readonly version: number; readonly items: Item[] }
    | undefined;
  readonly #ends: readonly (() => void)[];
  /** The view that keys act on. */
  view: StageView | undefined;

  /** @param feed - that of a desk which has the same board open: then this one ends without closing the board */
  constructor(sync: Sync, session: OpenBoard, feed?: SceneFeed) {
    this.sync = sync;
    this.session = session;
    this.feed = feed ?? new SceneFeed(session, sourcesOf(sync.shelf));
    this.#ends = [
      session.onAltered((touched) => this.#dropGone(touched)),
      ...(feed
        ? []
        : [
            sync.shelf.subscribe((pictures) => this.#setSizesRight(pictures)),
            () => this.feed.close(),
            () => session.close(),
          ]),
    ];
  }

  close(): void {
    clearTimeout(this.#noticeTimer);
    clearTimeout(this.#namingTimer);
    clearTimeout(this.#litTimer);
    for (const end of this.#ends) end();
  }

  get store(): Readable<State> {
    return this.#store;
  }

  get now(): State {
    return this.#store.getState();
  }

  /** Where the pointer is; told at every move of it. */
  get hover(): Readable<Hover> {
    return this.#hover;
  }

  /** Calls back whenever something that is seen of the board or done with it may have altered; not at moves of the pointer. */
  watch = (listener: () => void): (() => void) => {
    const ends = [
      this.#store.subscribe(listener),
      this.session.store.subscribe(listener),
      this.session.onPreview(listener),
      this.sync.shelf.subscribe(listener),
    ];
    return () => {
      for (const end of ends) end();
    };
  };

  /** Says where the pointer is, board units, and on what. */
  point(at: Point | undefined, item: string | undefined): void {
    this.#hover.setState({ at, item });
  }

  get pointer(): Point | undefined {
    return this.#hover.getState().at;
  }
  get hovered(): string | undefined {
    return this.#hover.getState().item;
  }
  get selection(): ReadonlySet<string> {
    return this.now.selection;
  }
  get tool(): Tool | undefined {
    return this.now.tool;
  }

  /** The selected items, lowest first; the same array until one of them or the selection alters. */
  get selected(): readonly Item[] {
    const of = this.selection;
    const { version } = this.session;
    if (this.#selected?.of !== of || this.#selected.version !== version) {
      const items = [...of].flatMap((id) => this.session.items.get(id) ?? []).sort(compareStacking);
      this.#selected = { of, version, items };
    }
    return this.#selected.items;
  }

  /** What a key acts on: the selection, else where one has walked to, else the item under the pointer. */
  get targets(): readonly Item[] {
    if (this.selection.size > 0) return this.selected;
    const id = this.now.walkedTo ?? this.hovered;
    const item = id === undefined ? undefined : this.session.items.get(id);
    return item && isSeen(this.session.items, item) ? [item] : [];
  }

  /** What a key moves: what it acts on and what lies in it, but for what is fixed in place. */
  get movable(): readonly Item[] {
    return movableOf(this.session.items, this.targets);
  }

  /** Whether arrows go from item to item; while something is selected they nudge it. */
  get isWalking(): boolean {
    return this.now.walkedTo !== undefined && this.selection.size === 0;
  }

  /** Stands on an item, or on none: then nobody walks. What was selected is not while one walks. */
  walkTo(walkedTo: string | undefined): void {
    if (walkedTo !== undefined && this.selection.size > 0) this.select([]);
    this.#store.setState({ walkedTo });
  }

  select(ids: Iterable<string>): void {
    const selection = new Set(ids);
    this.#store.setState({ selection, naming: [], ...(selection.size === 0 && { isLabelOpen: false }) });
    this.#leaveWhatIsOver();
  }

  selectAll(): void {
    this.select(this.session.standing.map((item) => item.id));
  }

  toggleLabel(): void {
    if (this.selection.size === 0) this.select(this.targets.map((item) => item.id));
    this.#store.setState(({ selection, isLabelOpen }) => ({
      isLabelOpen: selection.size > 0 && !isLabelOpen,
    }));
  }

  toggleLabels(): void {
    this.#store.setState(({ areLabelsShown }) => ({ areLabelsShown: !areLabelsShown }));
  }

  /** Pins something over the view, or takes it away. @param place - CSS pixels of the view */
  pin(item: string, place: Rectangle | undefined): void {
    const pinned = new Map(this.now.pinned);
    if (place) pinned.set(item, place);
    else pinned.delete(item);
    this.#store.setState({ pinned });
  }

  toggleGuides(): void {
    this.#store.setState(({ areGuidesShown }) => ({ areGuidesShown: !areGuidesShown }));
  }

  toggleControls(): void {
    this.#store.setState(({ areControlsHidden }) => ({ areControlsHidden: !areControlsHidden }));
  }

  say(text: string, detail: readonly string[] = []): void {
    clearTimeout(this.#noticeTimer);
    this.#noticeTimer = setTimeout(() => this.unsay(), NOTICE_MS);
    this.#store.setState({ notice: { text, detail } });
  }

  /** Says something that hurries nobody: once what is being said was read. */
  sayNext(text: string, detail: readonly string[] = []): void {
    if (this.now.notice) this.#nextNotice = { text, detail };
    else this.say(text, detail);
  }

  /** Says that nothing can be altered here. */
  refuse(): void {
    this.say('Nothing is altered here: this is how the board was.', [
      'Bring back what you want of it, and go on with that on the board.',
    ]);
  }

  unsay(): void {
    const next = this.#nextNotice;
    this.#nextNotice = undefined;
    if (next) this.say(next.text, next.detail);
    else this.#store.setState({ notice: undefined });
  }

  /** Outlines items for a moment; those that are gone are not. */
  light(ids: Iterable<string>): void {
    clearTimeout(this.#litTimer);
    this.#store.setState({ lit: new Set(ids) });
    this.#litTimer = setTimeout(() => this.#store.setState({ lit: new Set() }), LIT_MS);
  }

  setArrivals(arrivals: readonly Arrival[]): void {
    this.#store.setState({ arrivals });
  }

  /** @param naming - pictures that just came and may be named by typing, for a while */
  offerNaming(naming: readonly string[]): void {
    clearTimeout(this.#namingTimer);
    this.#namingTimer = setTimeout(() => this.offerNaming([]), NAMING_MS);
    this.#store.setState({ naming });
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
    const pictures = this.now.naming;
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

  // Lenses

  /** What is looked through right now; the same array until that alters. */
  get lenses(): readonly LaidLens[] {
    return this.now.heldLenses ?? this.now.lenses;
  }

  layLenses(lenses: readonly LaidLens[]): void {
    // What was looked through until now, while a key was held, is painted already.
    this.#store.setState({ lenses: sameValue(lenses, this.#seenThrough) ? this.#seenThrough : lenses });
  }

  /** @param heldLenses - undefined when the key is let go */
  holdLens(heldLenses: readonly LaidLens[] | undefined): void {
    if (heldLenses) this.#seenThrough = heldLenses;
    this.#store.setState({ heldLenses });
  }

  lensAmount(lens: LensId): number {
    return this.#lensAmounts.get(lens) ?? lensOf(lens).amount?.usual ?? 0;
  }

  setLensAmount(lens: LensId, amount: number): void {
    this.#lensAmounts.set(lens, amount);
  }

  // Held keys

  /** A key is held: until it is let go, the hand and the wheel mean something else. */
  hold(action: HeldAction): void {
    this.#wasHeldUsed = false;
    this.#store.setState({ held: action });
  }

  /** The hand did what the held key is for; letting go is then no tap. */
  useHeld(): void {
    this.#wasHeldUsed = true;
  }

  /** @returns true when the key was only tapped */
  letGo(action: HeldAction): boolean {
    if (this.now.held !== action) return false;
    this.#store.setState({ held: undefined });
    return !this.#wasHeldUsed;
  }

  comeClose(view = this.view): void {
    const [item] = this.targets;
    if (view?.isClose && (item === undefined || this.selection.size === 0)) view.goBack();
    else if (item) view?.comeClose(item.id, unionOf(this.targets.map(boundsOf))!);
  }

  /** Space that layouts leave between items, board units. */
  get gap(): number {
    return this.sync.settings.settings.gap ?? USUAL_GAP;
  }

  // Tools

  /** Takes a tool in the place of what was taken. `ids` are selected for it. */
  take(tool: Tool, ids: Iterable<string> = this.selection): void {
    this.leaveTool();
    if (this.session.isReadOnly && !tool.onlyLooks) {
      this.refuse();
      return;
    }
    this.#store.setState({ selection: new Set(ids), isLabelOpen: false, tool });
  }

  /** What the tool offers has altered. */
  retell(): void {
    this.#store.setState({});
  }

  leaveTool(): void {
    const { tool } = this;
    if (!tool) return;
    const before = this.#setAside;
    this.#setAside = undefined;
    this.#store.setState({ tool: undefined });
    tool.leave?.(this);
    before?.leave?.(this);
  }

  /** Takes a tool while a key is held: the one that was taken is set aside, and goes on where it was. */
  takeMeanwhile(tool: Tool): void {
    this.#setAside = this.tool;
    this.#store.setState({ tool });
  }

  /** Leaves a tool that was taken meanwhile; another was taken since: that stays. */
  leaveMeanwhile(tool: Tool): void {
    if (this.tool !== tool) return;
    const before = this.#setAside;
    this.#setAside = undefined;
    this.#store.setState({ tool: before });
    tool.leave?.(this);
  }

  #leaveWhatIsOver(): void {
    if (this.tool?.isOver?.(this)) this.leaveTool();
  }

  /**
   * Escape, one thing at a time: what was said, what is being done, the label, what was brought close, what is selected,
   * walking, hidden controls.
   *
   * @param view - the board's own, or that of a perch, where nothing is selected
   */
  stepBack(view: StageView | undefined): void {
    const { notice, lit, tool, isLabelOpen, selection, walkedTo, areControlsHidden } = this.now;
    if (notice || lit.size > 0) {
      this.unsay();
      if (lit.size > 0) this.light([]);
    } else if (tool && this.#setAside) this.leaveMeanwhile(tool);
    else if (tool?.back?.(this)) return;
    else if (tool) this.leaveTool();
    else if (isLabelOpen && view === this.view) this.toggleLabel();
    else if (view?.isClose) view.goBack();
    else if (view !== this.view) return;
    else if (selection.size > 0) this.select([]);
    else if (walkedTo !== undefined) this.walkTo(undefined);
    else if (areControlsHidden) this.toggleControls();
  }

  /** The server read a picture whole: where its sides are others than its head had said, placements follow. */
  #setSizesRight(pictures: ReadonlySet<string>): void {
    const operations = [...this.session.items.values()].flatMap((item): Operation[] => {
      if (item.removed) return [];
      return picturesOf(item).flatMap((id): Operation[] => {
        const known = pictures.has(id) ? this.sync.shelf.get(id)?.picture : undefined;
        const set = known && kindOf(item).exchanged?.(item, known, false);
        return set && !sameValue(item, { ...item, ...set }) ? [{ item: item.id, set }] : [];
      });
    });
    this.session.correct(operations);
  }

  /** What was removed, here or elsewhere, is no longer selected. */
  #dropGone(touched: ReadonlySet<string>): void {
    const { items } = this.session;
    // Touching a cluster may hide what lies in it, which was not touched itself.
    const isHiding = [...touched].some((id) => items.get(id)?.kind === 'cluster');
    const isGone = (id: string) => {
      const item = items.get(id);
      return (isHiding || touched.has(id)) && !(item && isSeen(items, item));
    };
    const kept = [...this.selection].filter((id) => !isGone(id));
    if (kept.length !== this.selection.size) this.select(kept);
    if (this.hovered !== undefined && isGone(this.hovered)) this.#hover.setState({ item: undefined });
    if (this.now.walkedTo !== undefined && isGone(this.now.walkedTo)) this.walkTo(undefined);
    this.#leaveWhatIsOver();
  }
}

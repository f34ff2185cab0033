import {
  boundsOf,
  boundsOfItems,
  compareStacking,
  createNote,
  heightOf,
  keysOnTop,
  NOTE_TYPE,
  trimTo,
} from '@miradero/core/board';
import { addPoints, type Point, type Rectangle, turnPoint, unionOf } from '@miradero/core/geometry';
import { nextOfSeries } from '@miradero/core/picture';
import type { Item, Note, Operation, PatchPicture, Placement } from '@miradero/core/schema';
import { noteHeightFor, SceneFeed, type StageView } from '../stage/index.ts';
import { type BoardSession, newGesture, pathOfPicture, type Sync } from '../sync/index.ts';
import type { Arrival, Mode, Notice } from './desk-state.ts';
import type { HeldAction } from './held-action.ts';
import { sourcesOf } from './sources.ts';

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
  #mode: Mode = { kind: 'rest' };
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
  get mode(): Mode {
    return this.#mode;
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

  get targetPlacement(): Placement | undefined {
    return this.targets.find((item): item is Placement => item.kind === 'placement');
  }

  select(ids: Iterable<string>): void {
    this.#naming = [];
    this.#selection = new Set(ids);
    if (this.#selection.size === 0) this.#isLabelOpen = false;
    if (this.#mode.kind === 'trim' && !this.#selection.has(this.#mode.id)) this.#mode = { kind: 'rest' };
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
    void this.sync.outbox.put({ kind: 'patch', path: pathOfPicture(id), body: patch, awaits: id });
  }

  /** Names what came; several become a series. */
  nameArrived(title: string): void {
    const pictures = this.#naming;
    const taken = new Set(this.sync.shelf.names());
    for (const picture of pictures) {
      const name = pictures.length === 1 ? title : nextOfSeries(title, taken);
      taken.add(name);
      this.session.renamePicture(picture, name, true);
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

  undo(): void {
    const skipped = this.session.undo();
    if (skipped) this.#sayKept(skipped);
  }

  redo(): void {
    const skipped = this.session.redo();
    if (skipped) this.#sayKept(skipped);
  }

  comeClose(view = this.view): void {
    const [item] = this.targets;
    if (view?.isClose && (item === undefined || this.#selection.size === 0)) view.goBack();
    else if (item) view?.comeClose(item.id, unionOf(this.targets.map(boundsOf))!);
  }

  // Trim

  startTrim(): void {
    if (this.#mode.kind === 'trim') {
      this.leaveMode();
      return;
    }
    const placement = this.targetPlacement;
    if (!placement) return;
    this.#selection = new Set([placement.id]);
    this.#mode = { kind: 'trim', id: placement.id };
    this.#isLabelOpen = false;
    this.#tell();
  }

  trim(placement: Placement, to: Rectangle): void {
    this.session.commit([trimTo(placement, to)]);
  }

  leaveMode(): void {
    this.#mode = { kind: 'rest' };
    this.#tell();
  }

  /** Escape: first what was said, then what is being done, then what is selected. */
  escape(): void {
    if (this.#notice) this.unsay();
    else if (this.#mode.kind !== 'rest') this.leaveMode();
    else if (this.#isLabelOpen) this.toggleLabel();
    else this.select([]);
  }

  /** Enter: edits the note that keys act on, ends a trim. */
  enter(): void {
    const note = this.targets.find((item): item is Note => item.kind === 'note');
    if (note) this.editNote(note);
    else if (this.#mode.kind === 'trim') this.leaveMode();
  }

  // Notes

  /** Starts a new note where the pointer is. */
  startNote(): void {
    const view = this.view;
    if (!view) return;
    const width = NOTE_TYPE.width / view.camera.scale;
    const corner = this.pointer ?? view.camera.centre;
    const height = (NOTE_TYPE.minHeight * width) / NOTE_TYPE.width;
    const centre = { x: corner.x + width / 2, y: corner.y + height / 2 };
    this.#selection = new Set();
    this.#mode = { kind: 'write', id: undefined, centre, width, gesture: newGesture() };
    this.#tell();
  }

  editNote(note: Note): void {
    this.#selection = new Set([note.id]);
    this.#isLabelOpen = false;
    this.#mode = {
      ...{ kind: 'write', id: note.id, centre: note.centre, width: note.width },
      gesture: newGesture(),
    };
    this.#tell();
  }

  /**
   * Keeps what was written so far; the note is created with its first letter. Every later writing of the same stay
   * belongs to the same gesture, so that one undo takes all of it back.
   */
  write(text: string): void {
    const mode = this.#mode;
    if (mode.kind !== 'write') return;
    const height = noteHeightFor(text, mode.width);
    const note = mode.id === undefined ? undefined : this.session.items.get(mode.id);
    if (note?.kind === 'note') {
      if (note.text === text) return;
      // The upper edge stays where it is, also of a turned note.
      const grown = turnPoint({ x: 0, y: (height - heightOf(note)) / 2 }, note.turn);
      const set = { text, height, centre: addPoints(note.centre, grown) };
      this.session.commit([{ item: note.id, set }], mode.gesture);
      return;
    }
    if (text.trim() === '') return;
    const id = crypto.randomUUID();
    const top = mode.centre.y - (NOTE_TYPE.minHeight * mode.width) / NOTE_TYPE.width / 2;
    const create = createNote({
      id,
      stack: keysOnTop(this.session.items.values(), 1)[0]!,
      centre: { x: mode.centre.x, y: top + height / 2 },
      width: mode.width,
      height,
      text,
    });
    this.#mode = { ...mode, id };
    this.session.commit([{ create }], mode.gesture);
  }

  /** Ends writing; a note left without a letter goes. */
  endWriting(): void {
    const mode = this.#mode;
    if (mode.kind !== 'write') return;
    this.#mode = { kind: 'rest' };
    const note = mode.id === undefined ? undefined : this.session.items.get(mode.id);
    if (note?.kind === 'note' && note.text.trim() === '') {
      this.session.commit([{ item: note.id, set: { removed: true } }], mode.gesture);
    } else if (note && !note.removed) this.#selection = new Set([note.id]);
    this.#tell();
  }

  /** The server read a picture whole: where its sides are others than its head had said, placements follow. */
  #setSizesRight(pictures: ReadonlySet<string>): void {
    const operations = this.session.standing.flatMap((item): Operation[] => {
      if (item.kind !== 'placement' || !pictures.has(item.picture)) return [];
      const known = this.sync.shelf.get(item.picture)?.picture;
      if (!known || (known.width === item.pictureWidth && known.height === item.pictureHeight)) return [];
      return [{ item: item.id, set: { pictureWidth: known.width, pictureHeight: known.height } }];
    });
    this.session.correct(operations);
  }

  #sayKept(skipped: number): void {
    const what = skipped === 1 ? 'One property was' : `${skipped} properties were`;
    this.say(`${what} left as another window has set it since.`);
  }

  /** What was removed, here or elsewhere, is no longer selected. */
  #dropGone(): void {
    const isGone = (id: string) => this.session.items.get(id)?.removed !== false;
    const kept = [...this.#selection].filter((id) => !isGone(id));
    if (kept.length !== this.#selection.size) this.select(kept);
    if (this.#hovered !== undefined && isGone(this.#hovered)) this.#hovered = undefined;
    this.#tell();
  }

  #tell(): void {
    this.#version += 1;
    for (const listener of this.#listeners) listener();
  }
}

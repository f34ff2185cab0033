import type { Action } from '../desk/index.ts';
import type { OwnSettings } from '../sync/index.ts';
import { ACTIONS } from './actions.ts';
import { canonical } from './key-press.ts';

/** Commands that are there on every page, beside the actions of a board. */
export const EVERYWHERE = [
  { id: 'palette', label: 'anything by name', group: 'Everywhere', keys: ['$mod+k'] },
  { id: 'keys', label: 'all keys', group: 'Everywhere', keys: ['Shift+?'] },
  { id: 'find', label: 'find', group: 'Everywhere', keys: ['/'] },
  { id: 'all-boards', label: 'all boards', group: 'Everywhere', keys: ['$mod+Shift+O'] },
  { id: 'landing', label: 'landing', group: 'Everywhere', keys: ['$mod+Shift+L'] },
  { id: 'library', label: 'library', group: 'Everywhere', keys: ['$mod+Shift+F'] },
  { id: 'subjects', label: 'subjects', group: 'Everywhere', keys: [] },
  { id: 'sources', label: 'sources of these pictures', group: 'Everywhere', keys: [] },
  { id: 'settings', label: 'settings', group: 'Everywhere', keys: [] },
  { id: 'bring', label: 'bring from a phone or a narrow window', group: 'Everywhere', keys: [] },
  { id: 'close-board', label: 'close this tab', group: 'Everywhere', keys: [] },
  { id: 'put-away', label: 'put this board away', group: 'Everywhere', keys: [] },
  { id: 'undo', label: 'undo', group: 'Everywhere', keys: ['$mod+z'] },
  { id: 'redo', label: 'redo', group: 'Everywhere', keys: ['$mod+Shift+Z'] },
  { id: 'next-board', label: 'next open board', group: 'Everywhere', keys: ['Alt+PageDown'] },
  { id: 'previous-board', label: 'previous open board', group: 'Everywhere', keys: ['Alt+PageUp'] },
] as const;

/** Anything that has a name and may have keys. */
export interface Keyed {
  readonly id: string;
  readonly label: string;
  readonly group: string;
  readonly keys: readonly string[];
}

/** What the hand does by itself; stands in the sheet beside the keys. */
export const BY_HAND: readonly (readonly [words: string, how: string])[] = [
  ['zoom at the pointer', 'wheel, or pinch'],
  ['pan', 'middle button, or two fingers'],
  ['select; add to it', 'click; Shift click'],
  ['select what a band touches', 'drag on the ground'],
  ['come close, go back', 'double click'],
  ['what can be done here', 'right click, or hold still'],
  ['keep to one axis', 'Shift while moving'],
  ['steps of 15°', 'Shift while turning'],
  ['line nothing up', 'Alt while moving'],
  ['size from the centre', 'Alt while sizing'],
  ['zoom with a pen alone', 'drag along the right edge'],
  ['pan with a pen alone', 'drag along the lower edge'],
  ['move the focus', 'Tab'],
];

export const ALL_KEYED: readonly Keyed[] = [...EVERYWHERE, ...ACTIONS];

/** Which keys do what: ours, except where the person chose others. */
export class Keymap {
  readonly #settings: OwnSettings;

  constructor(settings: OwnSettings) {
    this.#settings = settings;
  }

  get #chosen(): Readonly<Record<string, readonly string[]>> {
    return (this.#settings.settings.keys ?? {}) as Readonly<Record<string, readonly string[]>>;
  }

  keysOf(keyed: Keyed): readonly string[] {
    return this.#chosen[keyed.id] ?? keyed.keys;
  }

  isChosen(id: string): boolean {
    return this.#chosen[id] !== undefined;
  }

  /** What else a press does already. */
  conflictsOf(id: string, press: string): Keyed[] {
    return ALL_KEYED.filter(
      (other) => other.id !== id && this.keysOf(other).some((key) => canonical(key) === canonical(press)),
    );
  }

  /** Gives a press to one command and takes it from every other. */
  choose(id: string, press: string): Promise<void> {
    const keys: Record<string, string[]> = Object.fromEntries(
      Object.entries(this.#chosen).map(([known, presses]) => [known, [...presses]]),
    );
    for (const other of this.conflictsOf(id, press)) {
      keys[other.id] = this.keysOf(other).filter((key) => canonical(key) !== canonical(press));
    }
    keys[id] = [press];
    return this.#settings.set({ keys });
  }

  /** Ours again, for one command or for all. */
  reset(id?: string): Promise<void> {
    const keys = Object.fromEntries(
      Object.entries(this.#chosen)
        .filter(([known]) => id !== undefined && known !== id)
        .map(([known, presses]) => [known, [...presses]]),
    );
    return this.#settings.set({ keys });
  }
}

export const isHeldAction = (keyed: Keyed): keyed is Action & { held: NonNullable<Action['held']> } =>
  'held' in keyed && keyed.held !== undefined;

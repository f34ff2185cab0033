import type { OwnSettings } from '../sync/index.ts';
import type { Command, Keyed } from './command.ts';
import { canonical } from './key-press.ts';
import { mayMeet } from './place.ts';

/** Which keys do what: ours, except where the person chose others. */
export class Keymap {
  readonly #settings: OwnSettings;
  readonly commands: readonly Command[];

  constructor(settings: OwnSettings, commands: readonly Command[]) {
    this.#settings = settings;
    this.commands = commands;
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

  /** What else a press does already where this command may be. */
  conflictsOf({ id, place }: Command, press: string): Command[] {
    return this.commands.filter(
      (other) =>
        other.id !== id &&
        mayMeet(place, other.place) &&
        this.keysOf(other).some((key) => canonical(key) === canonical(press)),
    );
  }

  /** Gives a press to one command and takes it from every other that may be there beside it. */
  choose(command: Command, press: string): Promise<void> {
    const keys: Record<string, string[]> = Object.fromEntries(
      Object.entries(this.#chosen).map(([known, presses]) => [known, [...presses]]),
    );
    for (const other of this.conflictsOf(command, press)) {
      keys[other.id] = this.keysOf(other).filter((key) => canonical(key) !== canonical(press));
    }
    keys[command.id] = [press];
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

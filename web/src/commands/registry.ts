import type { Command } from './command.ts';
import type { Finder } from './finder.ts';

/** Everything that can be done and everything that can be found, of all rooms. */
export class Registry {
  readonly commands: readonly Command[];
  readonly finders: readonly Finder[];
  readonly #byId: ReadonlyMap<string, Command>;

  /** @throws RangeError when two commands have one id */
  constructor(commands: readonly Command[], finders: readonly Finder[] = []) {
    this.commands = commands;
    this.finders = finders;
    this.#byId = new Map(commands.map((command) => [command.id, command]));
    if (this.#byId.size < commands.length) {
      const twice = commands.find((command) => this.#byId.get(command.id) !== command);
      throw new RangeError(`two commands are called ${twice?.id}`);
    }
  }

  /** @throws RangeError when there is none */
  of(id: string): Command {
    const command = this.#byId.get(id);
    if (!command) throw new RangeError(`no such command: ${id}`);
    return command;
  }
}

import type { Settings } from '@miradero/core/schema';
import type { Channel } from './channel.ts';
import { askServer } from './http.ts';
import type { Outbox } from './outbox.ts';

const PATH = '/api/settings';
const AGAIN_MS = 2_000;

/** What the person set for all of their windows: shown at once, kept and sent like everything else. */
export class OwnSettings {
  readonly #outbox: Outbox;
  readonly #channel: Channel;
  readonly #listeners = new Set<() => void>();
  #settings: Settings = {};

  constructor(outbox: Outbox, channel: Channel) {
    this.#outbox = outbox;
    this.#channel = channel;
    channel.subscribe((message) => {
      if (message.kind === 'settings') this.#show(message.settings);
      if (message.kind === 'event' && ['settings', 'hello', 'compare'].includes(message.event.kind)) {
        void this.#ask();
      }
    });
    void this.#ask();
  }

  get settings(): Settings {
    return this.#settings;
  }

  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  /** @throws what the outbox throws when the browser has no room */
  async set(part: Settings): Promise<void> {
    this.#channel.post({ kind: 'settings', settings: { ...this.#settings, ...part } });
    await this.#outbox.put({ kind: 'patch', path: PATH, body: part });
  }

  /** The server's word, with what is still on its way to it on top. */
  async #ask(): Promise<void> {
    try {
      const { settings } = await askServer<{ settings: Settings }>(PATH);
      const unsent = await this.#outbox.patchesOf(PATH);
      this.#show(Object.assign({}, settings, ...unsent) as Settings);
    } catch {
      // Without the server ours serve meanwhile; its greeting asks again.
      setTimeout(() => void this.#ask(), AGAIN_MS);
    }
  }

  #show(settings: Settings): void {
    this.#settings = settings;
    for (const listener of this.#listeners) listener();
  }
}

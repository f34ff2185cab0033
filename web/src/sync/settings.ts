import type { Settings } from '@miradero/core/schema';
import { createStore, type Readable } from '../state/index.ts';
import type { Channel } from './channel.ts';
import { ask } from './http.ts';
import type { Outbox } from './outbox.ts';
import type { OwnPatches } from './own-patches.ts';

const PATH = '/api/settings';
const AGAIN_MS = 2_000;

/** What the person set for all of their windows: shown at once, kept and sent like everything else. */
export class OwnSettings {
  readonly #outbox: Outbox;
  readonly #patches: OwnPatches;
  readonly #store = createStore<Settings>(() => ({}));
  #confirmed: Settings = {};
  #asked = 0;

  constructor(outbox: Outbox, patches: OwnPatches, channel: Channel) {
    this.#outbox = outbox;
    this.#patches = patches;
    channel.subscribe((message) => {
      if (message.kind === 'event' && ['settings', 'hello', 'compare'].includes(message.event.kind)) {
        void this.#ask();
      }
    });
    patches.subscribe((path, settled) => {
      if (path !== PATH) return;
      if (settled?.isTaken) {
        this.#confirmed = { ...this.#confirmed, ...settled.body };
        void this.#ask();
      }
      this.#show();
    });
    void this.#ask();
  }

  get settings(): Settings {
    return this.#store.getState();
  }

  get store(): Readable<Settings> {
    return this.#store;
  }

  /** @throws what the outbox throws when the browser has no room */
  async set(part: Settings): Promise<void> {
    await this.#outbox.put({ kind: 'patch', path: PATH, body: part });
  }

  /** The server's word, with what is still on its way to it on top. */
  async #ask(): Promise<void> {
    this.#asked += 1;
    const own = this.#asked;
    try {
      const { settings } = await ask('GET /api/settings');
      // An answer that was asked for before something else became known is out of date.
      if (own !== this.#asked) return;
      this.#confirmed = settings;
      this.#show();
    } catch {
      if (own !== this.#asked) return;
      // Without the server ours serve meanwhile; its greeting asks again.
      setTimeout(() => void this.#ask(), AGAIN_MS);
    }
  }

  #show(): void {
    const shown = Object.assign({}, this.#confirmed, ...this.#patches.bodiesOf(PATH)) as Settings;
    this.#store.setState(shown, true);
  }
}

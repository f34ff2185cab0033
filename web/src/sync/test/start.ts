import 'fake-indexeddb/auto';
import { openBrowserDatabase } from '../browser-database.ts';
import { Channel, type WindowMessage } from '../channel.ts';
import { jobProgress } from '../job-progress.ts';
import { Outbox } from '../outbox.ts';
import { OwnPatches } from '../own-patches.ts';
import { PictureShelf } from '../picture-shelf.ts';
import { SavedState } from '../saved-state.ts';
import { Sender } from '../sender.ts';
import { Steps } from '../steps/index.ts';
import type { Sync } from '../sync.ts';

let number = 0;

export interface TestSync extends Sync {
  readonly heard: WindowMessage[];
  /** Begins to send; as in a browser it goes on until the window closes. */
  send(): void;
  stop(): void;
}

/** Everything of one window that keeps and sends, on a store of its own. @param store - that of an earlier window */
export async function startTestSync(store?: string): Promise<TestSync & { readonly store: string }> {
  number += 1;
  const name = store ?? `window-${number}`;
  const database = await openBrowserDatabase(name);
  const channel = new Channel(`${name}-${number}`);
  const heard: WindowMessage[] = [];
  channel.subscribe((message) => heard.push(message));
  const outbox = new Outbox(database, channel);
  const patches = new OwnPatches(database, channel);
  const ending = new AbortController();
  return {
    store: name,
    session: { databaseId: name, owner: 'o', build: 'b' },
    ...{ database, channel, outbox, patches, heard },
    shelf: new PictureShelf(database, patches, channel),
    saved: new SavedState(database, outbox, channel),
    ...{ settings: undefined as never, jobs: jobProgress(channel) },
    steps: new Steps({ outbox, patches, channel }),
    send: () => void new Sender(database, channel).run(ending.signal),
    stop: () => ending.abort(),
  };
}

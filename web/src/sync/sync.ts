import type { ServerEvent, Session } from '@miradero/core/schema';
import { type Readable, watch } from '../state/index.ts';
import { type BrowserDatabase, openBrowserDatabase } from './browser-database.ts';
import { Channel } from './channel.ts';
import { ask, writeTo } from './http.ts';
import { jobProgress } from './job-progress.ts';
import { countKeptElsewhere } from './kept-elsewhere.ts';
import { Outbox } from './outbox.ts';
import { OwnPatches } from './own-patches.ts';
import { PictureShelf } from './picture-shelf.ts';
import { SavedState } from './saved-state.ts';
import { Sender } from './sender.ts';
import { OwnSettings } from './settings.ts';
import { nameOfWindow, StepStore, Steps } from './steps/index.ts';
import { Uploads } from './uploads.ts';

/** Everything of one window that has to do with keeping and sending. */
export interface Sync {
  readonly session: Session;
  readonly database: BrowserDatabase;
  readonly channel: Channel;
  readonly outbox: Outbox;
  readonly patches: OwnPatches;
  readonly shelf: PictureShelf;
  readonly saved: SavedState;
  readonly settings: OwnSettings;
  /** How far long jobs of the server are, 0..1, by what they work on. */
  readonly jobs: Readable<ReadonlyMap<string, number>>;
  /** What was done in this window, to be taken back. */
  readonly steps: Steps;
}

/** One event stream a browser: six of them would block every further request (HTTP/1.1). */
function listenToServer(channel: Channel, session: Session, signal: AbortSignal): void {
  const source = new EventSource('/api/events');
  source.onmessage = ({ data }: MessageEvent<string>) => {
    const event = JSON.parse(data) as ServerEvent;
    if (event.kind === 'hello') {
      if (event.databaseId !== session.databaseId) location.reload();
      channel.post({ kind: 'reach', trouble: undefined });
    }
    channel.post({ kind: 'event', event });
  };
  source.onerror = () => {
    channel.post({ kind: 'reach', trouble: 'server-gone' });
    // The browser gives up after an answer that is no stream (a proxy, a server that is just starting).
    if (source.readyState === EventSource.CLOSED && !signal.aborted) {
      setTimeout(() => listenToServer(channel, session, signal), 1_000);
    }
  };
  signal.addEventListener('abort', () => source.close());
}

/** One window of a browser sends, the holder of the lock; when it closes, the next one takes over. */
function sendWhenHolder(
  database: BrowserDatabase,
  channel: Channel,
  session: Session,
  ending: AbortController,
): void {
  void navigator.locks.request(`miradero-sender-${session.databaseId}`, async () => {
    if (ending.signal.aborted) return;
    listenToServer(channel, session, ending.signal);
    await Promise.all([
      new Sender(database, channel).run(ending.signal),
      new Uploads(database, channel).run(ending.signal),
    ]);
  });
}

/** Names the interface that this page was loaded with; undefined where no server filled it in. */
function buildOfPage(): string | undefined {
  const build = document.querySelector<HTMLMetaElement>('meta[name="build"]')?.content;
  return build?.startsWith('__') ? undefined : build;
}

/** Opens this browser's store for the server's database and starts sending what it holds. */
export async function startSync(): Promise<Sync> {
  const session = await ask('GET /api/session');
  writeTo(session.databaseId);
  // A window whose store was taken over can send nothing: it leaves that to the others.
  const ending = new AbortController();
  const database = await openBrowserDatabase(session.databaseId, () => ending.abort());
  const channel = new Channel(session.databaseId);
  const outbox = new Outbox(database, channel);
  const saved = new SavedState(database, outbox, channel, buildOfPage());
  const patches = new OwnPatches(database, channel);
  const shelf = new PictureShelf(database, patches, channel);
  void countKeptElsewhere(session.databaseId)
    .then((count) => saved.setElsewhere(count))
    .catch(() => {});
  sendWhenHolder(database, channel, session, ending);
  window.addEventListener('beforeunload', (event) => {
    // What is in memory alone would be gone.
    const { trouble, unwritten } = outbox.store.getState();
    if (trouble && unwritten > 0) event.preventDefault();
  });
  const settings = new OwnSettings(outbox, patches, channel);
  const jobs = jobProgress(channel);
  const steps = new Steps({ outbox, patches, channel }, new StepStore(database, nameOfWindow()));
  watch(
    steps.store,
    ({ isTurning }) => isTurning,
    (isTurning) => saved.setTurning(isTurning),
  );
  // Nothing that is shown first needs them.
  void steps.read();
  return { session, database, channel, outbox, patches, shelf, saved, settings, jobs, steps };
}

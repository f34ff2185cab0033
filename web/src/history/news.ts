import { wordsOfGist } from '@miradero/core/history';
import type { BoardNews } from '@miradero/core/schema';
import type { Desk } from '../desk/index.ts';
import { ask, browserId } from '../sync/index.ts';
import { rememberSeen, seenOf } from './seen.ts';
import { dayWords, hourWords } from './when.ts';

/** What is told in words about what happened while nobody looked; undefined for nothing. */
export function newsWords(news: BoardNews, since: Date, now = new Date()): string | undefined {
  const said = news.by.flatMap(({ name, gist }) => {
    const words = wordsOfGist(gist);
    return words === '' ? [] : [`${words}, by ${name === null ? 'you, elsewhere' : `“${name}”`}`];
  });
  if (said.length === 0) return undefined;
  const day = dayWords(since, now);
  return `Since ${day === 'today' ? hourWords(since) : day}: ${said.join('; ')}`;
}

/** Seen is told to the disk of this browser at most so often, ms. */
const REMEMBER_MS = 400;

/**
 * Tells once what happened to a board since this browser showed it last, and lights it up; from then on it counts as seen
 * for as long as it is looked at.
 *
 * @returns a function that ends it
 */
export function tellNews(desk: Desk): () => void {
  const { session } = desk;
  const seen = seenOf(session.id);
  let isHere = true;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const keep = () => {
    clearTimeout(timer);
    timer = undefined;
    if (isHere && document.visibilityState === 'visible') rememberSeen(session.id, session.revision);
  };
  const tell = async () => {
    if (seen && seen.revision < session.revision) {
      const news = await ask('GET /api/boards/:id/history/news', {
        parameters: { id: session.id },
        query: { since: seen.revision, browser: browserId() },
      });
      const words = newsWords(news, new Date(seen.at));
      if (words && isHere) {
        desk.light(news.items);
        desk.sayNext(`${words}.`, ['It is outlined on the board. What happened before: Alt+Z.']);
      }
    }
    keep();
  };
  // The server knows less than this browser saw (a restored backup), or is away: it begins anew, or is told next time.
  void tell().catch(() => {});
  const end = session.store.subscribe(() => {
    timer ??= setTimeout(keep, REMEMBER_MS);
  });
  window.addEventListener('pagehide', keep);
  return () => {
    keep();
    isHere = false;
    clearTimeout(timer);
    window.removeEventListener('pagehide', keep);
    end();
  };
}

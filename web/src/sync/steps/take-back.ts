import {
  applyChange,
  type Done,
  type Facts,
  recordDone,
  takeBack,
  takeBackFacts,
} from '@miradero/core/board';
import type { Change, Picture } from '@miradero/core/schema';
import type { Channel } from '../channel.ts';
import { ask } from '../http.ts';
import type { Outbox } from '../outbox.ts';
import type { OwnPatches } from '../own-patches.ts';
import { patchedBy } from '../patched.ts';
import type { Act } from './act.ts';

/** What taking an act back came to. */
export interface Reversed {
  /** What takes that back in turn; undefined when nothing was done. */
  readonly act?: Act;
  /** Properties that were left as somebody else set them since. */
  readonly skipped: number;
}

/** A board that is open in this window: it takes changes back itself. */
export interface OpenBoard {
  takeBack(done: Done): { readonly done?: Done; readonly skipped: number };
}

/** What is needed to send what takes an act back. */
export interface Means {
  readonly outbox: Outbox;
  readonly patches: OwnPatches;
  readonly channel: Channel;
}

export interface TakeBackContext {
  readonly means: Means;
  board(id: string): OpenBoard | undefined;
}

/** A board that is not open here: as it is now, by the server and what is on its way there. */
async function takeBackAway(means: Means, board: string, done: Done): Promise<Reversed> {
  const unsent = await means.outbox.changesOf(board);
  const { items } = await ask('GET /api/boards/:id', { parameters: { id: board } });
  const now = new Map(items.map((item) => [item.id, item]));
  for (const change of unsent) applyChange(now, change);
  const { operations, skipped } = takeBack(now, done);
  if (operations.length === 0) return { skipped };
  const change: Change = { id: crypto.randomUUID(), operations };
  const reverse = recordDone(now, change);
  means.channel.post({ kind: 'queued', board, change });
  await means.outbox.put({ kind: 'change', board, change });
  return { act: { kind: 'change', board, done: reverse }, skipped };
}

const lastOf = (path: string): string => path.slice(path.lastIndexOf('/') + 1);

/** What stands at a path now, with what is on its way there on top; undefined where nobody can say. */
async function factsAt(means: Means, path: string, key: Facts | undefined): Promise<Facts | undefined> {
  const read = async (): Promise<Facts | undefined> => {
    if (path.startsWith('/api/pictures/'))
      return (await ask('GET /api/pictures/:id', { parameters: { id: lastOf(path) } }))
        .picture as object as Facts;
    if (path.startsWith('/api/boards/'))
      return (await ask('GET /api/boards')).boards.find(({ id }) => id === lastOf(path)) as object as Facts;
    if (path.startsWith('/api/subjects/'))
      return (await ask('GET /api/subjects')).subjects.find(
        ({ id }) => id === lastOf(path),
      ) as object as Facts;
    if (path === '/api/settings') return (await ask('GET /api/settings')).settings as object as Facts;
    if (path === '/api/library/tags')
      return (await ask('GET /api/library/words')).tags.find(
        ({ name }) => name === key?.name,
      ) as object as Facts;
    return undefined;
  };
  try {
    const { answer, bodies } = await means.patches.during(path, read);
    if (answer === undefined) return bodies.length > 0 ? Object.assign({}, ...bodies) : undefined;
    return path.startsWith('/api/pictures/')
      ? (patchedBy(answer as object as Picture, bodies) as object as Facts)
      : Object.assign({}, answer, ...bodies);
  } catch {
    // Without the server nobody knows of others: what was set here is taken back, and sent when it is there again.
    return undefined;
  }
}

async function takeBackOfFacts(means: Means, act: Extract<Act, { kind: 'facts' }>): Promise<Reversed> {
  const { path, before, after, awaits, key } = act;
  const more = { ...(awaits ? { awaits } : {}), ...(key ? { key } : {}) };
  const back = takeBackFacts(await factsAt(means, path, key), before, after);
  if (Object.keys(back.set).length === 0) return { skipped: back.skipped };
  const was = Object.fromEntries(Object.keys(back.set).map((name) => [name, after[name]]));
  await means.outbox.put({
    kind: 'patch',
    path,
    body: { ...key, ...back.set },
    ...(awaits ? { awaits } : {}),
  });
  return {
    act: { kind: 'facts', path, before: was, after: back.set, ...more },
    skipped: back.skipped,
  };
}

/**
 * Takes one act back, but for what others set since.
 *
 * @throws UnreachableError when it can only be taken back at the server, and that is away
 */
export async function takeActBack({ means, board }: TakeBackContext, act: Act): Promise<Reversed> {
  switch (act.kind) {
    case 'change': {
      const open = board(act.board);
      if (!open) return takeBackAway(means, act.board, act.done);
      const { done, skipped } = open.takeBack(act.done);
      return { skipped, ...(done ? { act: { kind: 'change', board: act.board, done } } : {}) };
    }
    case 'facts':
      return takeBackOfFacts(means, act);
    case 'bulk': {
      const answer = await ask('POST /api/library/restore', {
        body: { before: [...act.before], after: [...act.after] },
      });
      const { before, after, skipped } = answer;
      return { skipped, ...(after.length > 0 ? { act: { kind: 'bulk', before, after } } : {}) };
    }
    case 'copies': {
      const { picture, other, isSettled } = act;
      const keep = isSettled ? 'undecided' : 'both';
      await ask('POST /api/pictures/:id/copies', { parameters: { id: picture }, body: { other, keep } });
      return { act: { ...act, isSettled: !isSettled }, skipped: 0 };
    }
  }
}

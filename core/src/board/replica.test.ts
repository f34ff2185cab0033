import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createNote } from '../items/index.ts';
import type { Change, Item, LoggedChange } from '../schema/index.ts';
import { applyChange, Replica } from './index.ts';
import { board, change } from './test/arbitrary.ts';

/** The server: orders changes, refuses some; it knows what it accepted by its id, and forgets what it refused. */
class Log {
  readonly entries: LoggedChange[] = [];
  readonly state: Map<string, Item>;

  constructor(items: readonly Item[]) {
    this.state = new Map(items.map((item) => [item.id, item]));
  }

  take(made: Change, isRefused: boolean): number | null {
    const known = this.entries.find((entry) => entry.change.id === made.id);
    if (known) return known.revision;
    if (isRefused) return null;
    applyChange(this.state, made);
    this.entries.push({ revision: this.entries.length + 1, change: made });
    return this.entries.length;
  }
}

/** One browser with two windows, and news that are on their way to each. */
interface Step {
  readonly kind: 'make' | 'send' | 'resend' | 'deliver' | 'fetch';
  readonly browser: 0 | 1;
  readonly window: 0 | 1;
  readonly pick: number;
  readonly change: Change;
  readonly isRefused: boolean;
}

const step: fc.Arbitrary<Step> = fc.record({
  kind: fc.constantFrom('make', 'make', 'send', 'resend', 'deliver', 'deliver', 'fetch'),
  browser: fc.constantFrom(0, 1),
  window: fc.constantFrom(0, 1),
  pick: fc.nat(),
  change,
  isRefused: fc.boolean().map((value) => value),
});

type News =
  | { kind: 'queued'; change: Change }
  | { kind: 'outcome'; id: string; revision: number | null }
  | { kind: 'log'; entries: LoggedChange[] };

class Browser {
  readonly windows: Replica[];
  readonly outbox: Change[] = [];
  readonly sent: Change[] = [];
  readonly news: News[][] = [[], []];

  constructor(items: readonly Item[]) {
    this.windows = [new Replica(0, items), new Replica(0, items)];
  }

  tell(news: News): void {
    for (const queue of this.news) queue.push(news);
  }

  hear(window: 0 | 1, news: News): void {
    const replica = this.windows[window]!;
    if (news.kind === 'queued') replica.add(news.change);
    else if (news.kind === 'log') replica.receive(news.entries);
    else if (news.revision === null) replica.refuse(news.id);
    else replica.acknowledge(news.id, news.revision);
  }
}

function play(
  log: Log,
  browsers: readonly Browser[],
  { kind, browser, window, pick, change: made, isRefused }: Step,
): void {
  const own = browsers[browser]!;
  const send = (sent: Change) => {
    own.tell({ kind: 'outcome', id: sent.id, revision: log.take(sent, isRefused && pick % 3 === 0) });
  };
  if (kind === 'make') {
    own.windows[window]!.add(made);
    own.outbox.push(made);
    own.tell({ kind: 'queued', change: made });
  } else if (kind === 'send' && own.outbox.length > 0) {
    const sent = own.outbox.shift()!;
    own.sent.push(sent);
    send(sent);
  } else if (kind === 'resend' && own.sent.length > 0) {
    // The answer was lost: the same change goes out again.
    send(own.sent[pick % own.sent.length]!);
  } else if (kind === 'deliver' && own.news[window]!.length > 0) {
    // Any news, not the oldest; sometimes it comes twice.
    const queue = own.news[window]!;
    const index = pick % queue.length;
    own.hear(window, queue[index]!);
    if (pick % 2 === 0) queue.splice(index, 1);
  } else if (kind === 'fetch') {
    const from = pick % (log.entries.length + 1);
    own.news[window]!.push({ kind: 'log', entries: log.entries.slice(from) });
  }
}

const noteWith = (id: string) =>
  createNote({ id, stack: 'a0', centre: { x: 0, y: 0 }, width: 10, height: 10, text: '' });

describe('replica', () => {
  it('converges under delayed, repeated and reordered news, refusals included', () => {
    fc.assert(
      fc.property(board, fc.array(step, { maxLength: 60 }), (items, steps) => {
        const log = new Log(items);
        const browsers = [new Browser(items), new Browser(items)];
        for (const one of steps) play(log, browsers, one);
        for (const browser of browsers) {
          for (const sent of browser.outbox.splice(0)) {
            browser.tell({ kind: 'outcome', id: sent.id, revision: log.take(sent, false) });
          }
        }
        for (const browser of browsers) {
          for (const window of [0, 1] as const) {
            for (const news of browser.news[window]!.reverse()) browser.hear(window, news);
            browser.hear(window, { kind: 'log', entries: log.entries });
            const replica = browser.windows[window]!;
            expect(replica.revision).toBe(log.entries.length);
            expect(replica.pending).toEqual([]);
            expect(replica.isBehind).toBe(false);
            expect(new Map(replica.shown)).toEqual(log.state);
          }
        }
      }),
      { numRuns: 1500 },
    );
  });

  it('shows the confirmed state with its own unconfirmed changes on top, whatever came between', () => {
    fc.assert(
      fc.property(
        board,
        fc.array(change, { maxLength: 5 }),
        fc.array(change, { maxLength: 5 }),
        (items, own, remote) => {
          const replica = new Replica(0, items);
          for (const made of own) replica.add(made);
          replica.receive(remote.map((made, index) => ({ revision: index + 1, change: made })));
          const expected = new Map(items.map((item) => [item.id, item]));
          for (const made of [...remote, ...own]) applyChange(expected, made);
          expect(new Map(replica.shown)).toEqual(expected);
        },
      ),
    );
  });

  it('takes a refused change off again and keeps those made after it', () => {
    const note = noteWith('n');
    const replica = new Replica(4, [note]);
    replica.add({ id: '1', operations: [{ item: 'n', set: { width: 20 } }] });
    replica.add({ id: '2', operations: [{ item: 'n', set: { text: 'kept' } }] });
    expect(replica.refuse('1')).toEqual(new Set(['n']));
    expect(replica.shown.get('n')).toEqual({ ...note, text: 'kept' });
  });

  it('takes the word of another past: what was acknowledged there is gone, what is unsent stays', () => {
    const replica = new Replica(0, []);
    replica.add({ id: 'a', operations: [{ create: noteWith('acknowledged') }] });
    replica.add({ id: 'b', operations: [{ create: noteWith('unsent') }] });
    // Its own acknowledgement came, the log before it did not.
    replica.acknowledge('a', 7);
    replica.reset(9, [noteWith('other')], 'z');
    expect([...replica.shown.keys()].sort()).toEqual(['other', 'unsent']);
    expect([replica.revision, replica.lastChange, replica.isBehind]).toEqual([9, 'z', false]);
    replica.receive([{ revision: 10, change: { id: 'a', operations: [{ create: noteWith('again') }] } }]);
    expect([...replica.shown.keys()].sort()).toEqual(['again', 'other', 'unsent']);
    expect(replica.lastChange).toBe('a');
  });

  it('takes the word of a server that knows less, and puts what is unsent on top again', () => {
    const replica = new Replica(0, []);
    replica.receive([{ revision: 1, change: { id: 'a', operations: [{ create: noteWith('gone') }] } }]);
    replica.add({ id: 'b', operations: [{ create: noteWith('mine') }] });
    replica.reset(0, []);
    expect([...replica.shown.keys()]).toEqual(['mine']);
    expect(replica.revision).toBe(0);
  });
});

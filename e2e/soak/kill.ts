import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { applyChange } from '@miradero/core/board';
import { createNote } from '@miradero/core/items';
import type { BoardSnapshot, Change, ChangeOutcome, Item, LoggedChange } from '@miradero/core/schema';
import { TestBoard } from '../support/board.ts';
import { startRunning } from '../support/running.ts';
import { writeSoak } from './report.ts';

/** Writers write while server and database are killed at random; afterwards every acknowledged change is looked for. */
const ROUNDS = Number(process.argv[2] ?? 40);
let seed = Number(process.argv[3] ?? Date.now() % 1_000_000);
const SEED = seed;
const WRITERS = 5;
const BOARDS = 4;
const LATEST_MS = 60_000;

/** Source: Numerical Recipes, 7.1 (an even quick and dirty generator). */
function random(): number {
  seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
  return seed / 2 ** 32;
}
const oneOf = <T>(values: readonly T[]): T => values[Math.floor(random() * values.length)]!;

interface Acknowledged {
  readonly board: string;
  readonly id: string;
  readonly revision: number;
}

const running = await startRunning({ isDurable: true });
const boards = await Promise.all(
  Array.from({ length: BOARDS }, (_, index) => TestBoard.create(running.address, `killed ${index + 1}`)),
);
const acknowledged: Acknowledged[] = [];
let isEnding = false;

/** Sends one change until there is an answer about it; what is lost on its way is sent again under its id. */
async function persist(board: string, change: Change): Promise<void> {
  const until = Date.now() + LATEST_MS;
  for (;;) {
    try {
      const response = await fetch(`${running.address}/api/boards/${board}/changes`, {
        method: 'POST',
        body: JSON.stringify({ changes: [change] }),
        headers: { 'Content-Type': 'application/json' },
        signal: AbortSignal.timeout(10_000),
      });
      if (response.ok) {
        const { outcomes } = (await response.json()) as { outcomes: ChangeOutcome[] };
        const [outcome] = outcomes;
        if (!outcome || !('revision' in outcome)) throw new Error(`refused: ${JSON.stringify(outcome)}`);
        acknowledged.push({ board, id: change.id, revision: outcome.revision });
        return;
      }
    } catch (error) {
      if (error instanceof Error && error.message.startsWith('refused')) throw error;
    }
    if (Date.now() > until) throw new Error('nothing was acknowledged for a minute');
    await pause(20 + random() * 80);
  }
}

async function write(writer: number): Promise<void> {
  const own = new Map<string, string[]>();
  for (let count = 0; !isEnding; count += 1) {
    const { id: board } = oneOf(boards);
    const notes = own.get(board) ?? [];
    own.set(board, notes);
    const item = `w${writer}-${count}`;
    const isNew = notes.length === 0 || random() < 0.3;
    const operations: Change['operations'] = isNew
      ? [
          {
            create: createNote({
              ...{
                id: item,
                stack: 'a0',
                centre: { x: count, y: writer },
                width: 240,
                height: 51,
                text: item,
              },
            }),
          },
        ]
      : [{ item: oneOf(notes), set: { text: `${writer} ${count}`, width: 100 + (count % 300) } }];
    await persist(board, { id: randomUUID(), operations });
    if (isNew) notes.push(item);
  }
}

async function logOf(board: string): Promise<LoggedChange[]> {
  const log: LoggedChange[] = [];
  for (;;) {
    const since = log.at(-1)?.revision ?? 0;
    const response = await fetch(`${running.address}/api/boards/${board}/changes?since=${since}`);
    const { changes } = (await response.json()) as { changes: LoggedChange[] };
    if (changes.length === 0) return log;
    log.push(...changes);
  }
}

/** PostgreSQL comes back first: a server that starts without it ends. */
async function kill(what: 'server' | 'postgres' | 'both'): Promise<void> {
  if (what !== 'server') await running.killPostgres();
  if (what !== 'postgres') await running.killServer();
  await pause(random() * 400);
  if (what !== 'server') await running.postgres.start();
  if (what !== 'postgres') await running.startServer();
}

const started = Date.now();
const writing = Promise.all(Array.from({ length: WRITERS }, (_, index) => write(index)));
writing.catch(() => {
  isEnding = true;
});
const killed = { server: 0, postgres: 0, both: 0 };
for (let round = 1; round <= ROUNDS && !isEnding; round += 1) {
  await pause(200 + random() * 1_500);
  const what = oneOf(['server', 'postgres', 'both'] as const);
  killed[what] += 1;
  await kill(what);
  console.log(`round ${round}: killed ${what}, ${acknowledged.length} changes acknowledged so far`);
}
await pause(1_000);
isEnding = true;
await writing;

let [lost, twice, gaps, unequal] = [0, 0, 0, 0];
for (const { id: board } of boards) {
  const log = await logOf(board);
  const byId = new Map<string, number>();
  for (const [index, { revision, change }] of log.entries()) {
    if (revision !== index + 1) gaps += 1;
    if (byId.has(change.id)) twice += 1;
    byId.set(change.id, revision);
  }
  for (const one of acknowledged) if (one.board === board && byId.get(one.id) !== one.revision) lost += 1;
  const replayed = new Map<string, Item>();
  for (const { change } of log) applyChange(replayed, change);
  const { items } = (await (await fetch(`${running.address}/api/boards/${board}`)).json()) as BoardSnapshot;
  for (const item of items) {
    // The database hands properties out in an order of its own.
    const sorted = (value: object) => JSON.stringify(Object.entries(value).sort());
    if (sorted(replayed.get(item.id) ?? {}) !== sorted(item)) unequal += 1;
  }
  if (items.length !== replayed.size) unequal += 1;
}
await running.stop();
const words = `${ROUNDS} rounds by seed ${SEED} (server killed ${killed.server} times, PostgreSQL ${killed.postgres}, both ${killed.both}), ${WRITERS} writers on ${BOARDS} boards, ${acknowledged.length.toLocaleString('en')} changes acknowledged in ${Math.round((Date.now() - started) / 1000)} s: lost ${lost}, twice ${twice}, gaps ${gaps}, items unlike the replayed log ${unequal}.`;
console.log(words);
if (lost + twice + gaps + unequal > 0 || acknowledged.length === 0) process.exit(1);
writeSoak('Killed at random', words);

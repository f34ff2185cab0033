import { randomUUID } from 'node:crypto';
import type { Browser } from '@playwright/test';
import { startRunning } from '../e2e/support/running.ts';
import { pageIn } from './frames.ts';
import { openingTime } from './measure-stage.ts';
import { ms, report, times } from './report.ts';
import { seedBoard, seedPictures } from './seed.ts';

const ITEMS = 5_000;
const CHANGES = 10_000;
/** Changes that lay out everything. */
const LAYOUTS = 10;
const ROUNDS = 5;
/** Shares of the way through the past, just before and after a layout among them. */
const PLACES = [0.02, 0.1999, 0.2001, 0.5, 0.77, 0.9999];

async function post(address: string, board: string, changes: readonly object[]): Promise<void> {
  const answer = await fetch(`${address}/api/boards/${board}/changes`, {
    method: 'POST',
    body: JSON.stringify({ changes }),
    headers: { 'Content-Type': 'application/json' },
  });
  if (!answer.ok) throw new Error(`the changes were refused: ${answer.status}`);
}

/** Ten thousand changes, as hands make them: one thing, a few, now and then everything. */
async function makePast(address: string, board: string): Promise<void> {
  const { items } = (await (await fetch(`${address}/api/boards/${board}`)).json()) as {
    items: { id: string }[];
  };
  const set = (index: number, change: number) => ({
    item: items[index % items.length]!.id,
    set: {
      turn: change % 7,
      centre: { x: (index % 100) * 212 + (change % 40), y: Math.floor(index / 100) * 145 },
    },
  });
  const every = CHANGES / LAYOUTS;
  for (let from = 1; from < CHANGES; from += 500) {
    const changes = Array.from({ length: Math.min(500, CHANGES - from) }, (_, index) => {
      const number = from + index;
      const isLayout = number % every === 0;
      const count = isLayout ? items.length : number % 10 === 0 ? 20 : 1;
      const operations = Array.from({ length: count }, (_, of) =>
        set(isLayout ? of : number * 31 + of, number),
      );
      return { id: randomUUID(), operations };
    });
    await post(address, board, changes);
  }
}

async function untilStatesAreKept(address: string, board: string, latest: number): Promise<void> {
  for (let patience = 0; patience < 240; patience += 1) {
    const path = `${address}/api/boards/${board}/history/segment?revision=${latest}`;
    const { base } = (await (await fetch(path)).json()) as { base: number };
    if (base > latest * 0.9) return;
    await new Promise((resolve) => setTimeout(resolve, 1_000));
  }
  throw new Error('no states were kept');
}

const middle = (all: readonly number[]): number => [...all].sort((a, b) => a - b)[all.length >> 1]!;

/** Any state of a board with a long past, against opening today's board. */
export async function benchHistory(browser: Browser): Promise<void> {
  const running = await startRunning();
  try {
    console.log('seeding 500 pictures …');
    const { address } = running;
    const board = await seedBoard(address, await seedPictures(running.databaseUrl, 500), ITEMS);
    console.log(`making ${CHANGES.toLocaleString('en')} changes …`);
    await makePast(address, board);
    const { board: facts } = (await (await fetch(`${address}/api/boards/${board}`)).json()) as {
      board: { revision: number };
    };
    await untilStatesAreKept(address, board, facts.revision);
    const page = await pageIn(browser);
    const today = `${address}/boards/${board}`;
    const states = PLACES.map((place) => Math.round(place * facts.revision));
    const [now, then] = [[] as number[], states.map(() => [] as number[])];
    // By turns: a shared machine is quick and slow by the minute. The first of each runs cold code.
    for (let round = 0; round <= ROUNDS; round += 1) {
      const took = await openingTime(page, today);
      if (round > 0) now.push(took);
      for (const [index, revision] of states.entries()) {
        const tookThen = await openingTime(
          page,
          `${today}/history?at=${revision}`,
          `main[data-shown="${revision}"]`,
        );
        if (round > 0) then[index]!.push(tookThen);
      }
    }
    const own = middle(now);
    const slowest = Math.max(...then.map(middle));
    report(
      `any state of a board of 5,000 after 10,000 changes: opening, slowest of ${PLACES.length}`,
      `${ms(slowest)} (today’s: ${ms(own)})`,
      times(slowest / own),
      '≤ 1.5 ×',
      slowest <= 1.5 * own,
    );
    await page.context().close();
  } finally {
    await running.stop();
  }
}

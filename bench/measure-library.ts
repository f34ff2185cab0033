import type { LibraryQuery } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import { createConnection, type Knex } from '../server/src/database/connection.ts';
import { findInLibrary, statementsOf } from '../server/src/database/library.ts';
import { findLocalOwner } from '../server/src/database/owner.ts';
import { makeManyPictures } from '../server/src/test/many-pictures.ts';

export const PICTURES = 100_000;
const ROUNDS = 24;

/** Ways to ask the library; `round` makes every question another one. */
export const SEARCHES: readonly {
  readonly name: string;
  readonly isForgiving?: boolean;
  readonly query: (round: number) => LibraryQuery;
}[] = [
  { name: 'newest first', query: (round) => ({ offset: round * 200 }) },
  { name: 'two words', query: (round) => ({ words: `${pick(NOUNS, round)} ${pick(ADJECTIVES, round)}` }) },
  { name: 'one word, in 4,000 pictures', query: (round) => ({ words: pick(NOUNS, round) }) },
  {
    name: 'a word misspelt',
    isForgiving: true,
    query: (round) => ({ words: misspelt(pick(SWAPPABLE, round)) }),
  },
  { name: 'a short word misspelt', isForgiving: true, query: (round) => ({ words: pick(SHORT, round) }) },
  {
    name: 'a colour',
    query: (round) => ({ colour: ((round * 7_654_321) % 0xffffff).toString(16).padStart(6, '0') }),
  },
  { name: 'a likeness', query: (round) => ({ like: manyId(round * 37 + 1) }) },
  { name: 'a tag', query: (round) => ({ tag: pick(NOUNS, round) }) },
  { name: 'a purpose and a word', query: (round) => ({ purpose: 'light', words: pick(NOUNS, round) }) },
  { name: 'from dark to light, far down', query: (round) => ({ sort: 'lightness', offset: round * 2_000 }) },
  { name: 'sharpest of those without a source', query: () => ({ sort: 'sharpness', noSource: true }) },
  {
    name: 'on no board, largest first',
    query: (round) => ({ onNoBoard: true, sort: 'pixels', offset: round * 200 }),
  },
];
const NOUNS = ['ferry', 'lantern', 'rope', 'plank', 'wheel', 'mast', 'reed', 'window', 'channel', 'oilskin'];
/** As short words come out under hurried fingers. */
const SHORT = ['weel', 'rpoe', 'mats', 'reex', 'rustt', 'hlul'];
const ADJECTIVES = ['wet', 'old', 'bent', 'dark', 'pale', 'torn', 'heavy'];
const pick = (list: readonly string[], round: number) => list[round % list.length]!;
/** Two letters in the wrong order, as fingers have it. */
const misspelt = (word: string) => `${word.slice(0, 2)}${word[3]}${word[2]}${word.slice(4)}`;
const SWAPPABLE = NOUNS.filter((word) => misspelt(word) !== word);
const manyId = (number: number) => `many ${number}`;

const p95 = (took: number[]) => took.sort((a, b) => a - b)[Math.floor(took.length * 0.95)]!;

export interface SearchFigure {
  readonly name: string;
  readonly p95Ms: number;
  readonly index: string;
}

async function indexOf(knex: Knex, statement: Knex.Raw): Promise<string> {
  const { rows } = await knex.raw(`explain ${statement.toQuery()}`);
  const plan = (rows as { 'QUERY PLAN': string }[]).map((row) => row['QUERY PLAN']).join('\n');
  const found = [...plan.matchAll(/(?:using|on) (pictures_\w+|picture_colours_\w+)/g)].map(
    ([, name]) => name!,
  );
  return [...new Set(found)].filter((name) => name !== 'pictures_pkey').join(', ') || 'none';
}

/** Fills a library and asks it in every way, the count and the page of each, in SQL. */
export async function measureSearches(databaseUrl: string): Promise<SearchFigure[]> {
  const knex = createConnection(databaseUrl, 2);
  try {
    const owner = await findLocalOwner(knex);
    await makeManyPictures(knex, owner, PICTURES);
    const figures: SearchFigure[] = [];
    for (const { name, isForgiving = false, query } of SEARCHES) {
      const took: number[] = [];
      let index = '';
      for (let round = 0; round < ROUNDS; round += 1) {
        const asked = query(round);
        if (asked.like) {
          const { rows } = await knex.raw('select md5(?)::uuid as id', [asked.like]);
          asked.like = rows[0].id;
        }
        await knex.transaction(async (trx) => {
          const started = performance.now();
          const { isForgiven } = await findInLibrary(trx, owner, asked);
          took.push(performance.now() - started);
          if (isForgiven !== isForgiving)
            throw new Error(`${name}: ${asked.words} was not taken as it is meant`);
          const statements = await statementsOf(trx, owner, asked, { isFew: asked.words !== undefined });
          if (round === 0) index = await indexOf(trx, statements.page);
        });
      }
      figures.push({ name, p95Ms: p95(took), index });
    }
    return figures;
  } finally {
    await knex.destroy();
  }
}

/** Scrolls the wall of a library; @returns the longest run of frames in which some place in view had no picture */
export async function measureScrolling(
  page: Page,
  address: string,
): Promise<{ frames: number; longestBlank: number }> {
  await page.goto(`${address}/library`);
  await page.getByRole('option').first().waitFor();
  return page.evaluate(
    () =>
      new Promise<{ frames: number; longestBlank: number }>((resolve) => {
        const wall = document.querySelector<HTMLElement>('[data-testid="wall"]')!;
        const { left, top, width, height } = wall.getBoundingClientRect();
        let frames = 0;
        let blank = 0;
        let longestBlank = 0;
        const started = performance.now();
        const step = (now: number) => {
          wall.scrollTop += 60;
          frames += 1;
          const isHung = [0.2, 0.5, 0.8].some((share) =>
            [0.1, 0.35, 0.6, 0.85].some((across) =>
              document
                .elementFromPoint(left + width * across, top + height * share)
                ?.closest('[role="option"]'),
            ),
          );
          blank = isHung ? 0 : blank + 1;
          longestBlank = Math.max(longestBlank, blank);
          if (now - started < 6_000) requestAnimationFrame(step);
          else resolve({ frames, longestBlank });
        };
        requestAnimationFrame(step);
      }),
  );
}

import { type AddGuess, type Guess, MOST_GUESSES } from '@miradero/core/schema';
import type { Knex } from 'knex';

interface Row {
  readonly id: string;
  readonly truth: string;
  readonly guess: string;
  readonly guessed_at: Date;
}

/** Keeps a guess; the same one twice is one. */
export async function addGuess(knex: Knex, owner: string, guess: AddGuess): Promise<void> {
  await knex('guesses')
    .insert({ ...guess, owner })
    .onConflict('id')
    .ignore();
}

/** The newest guesses of an owner, the oldest of them first. */
export async function findGuesses(knex: Knex, owner: string): Promise<Guess[]> {
  const rows = await knex<Row & { owner: string }>('guesses')
    .where({ owner })
    .orderBy([
      { column: 'guessed_at', order: 'desc' },
      { column: 'id', order: 'desc' },
    ])
    .limit(MOST_GUESSES);
  return rows
    .reverse()
    .map(({ id, truth, guess, guessed_at }) => ({ id, truth, guess, guessedAt: guessed_at.toISOString() }));
}

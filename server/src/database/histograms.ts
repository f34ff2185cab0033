import type { Knex } from './connection.ts';

/** Keeps how often each colour is in a picture. */
export async function recordHistogram(knex: Knex, picture: string, cells: Buffer): Promise<void> {
  await knex('picture_histograms').insert({ picture, cells }).onConflict('picture').merge();
}

/** Of those of an owner's pictures of which it was counted. */
export async function findHistograms(
  knex: Knex,
  owner: string,
  pictures: readonly string[],
): Promise<{ picture: string; cells: Buffer }[]> {
  return knex('picture_histograms as h')
    .join('pictures as p', 'p.id', 'h.picture')
    .where('p.owner', owner)
    .whereIn('h.picture', [...pictures])
    .select('h.picture', 'h.cells');
}

import type { Measures } from '@miradero/core/picture';
import type { Knex } from './connection.ts';

/** Keeps what was measured of a picture: whole for reading, and by column and index for searching and sorting. */
export async function recordMeasures(knex: Knex, id: string, measures: Measures): Promise<void> {
  const { lightness, hue, sharpness, complexity, look, palette } = measures;
  await knex.transaction(async (trx) => {
    await trx('pictures')
      .where({ id })
      .update({
        ...{ lightness, hue, sharpness, complexity },
        measures: JSON.stringify(measures),
        look: trx.raw('cube(?::float8[])', [[...look]]),
      });
    await trx('picture_colours').where({ picture: id }).delete();
    if (palette.length === 0) return;
    await trx('picture_colours').insert(
      palette.map(({ l, a, b, share }) => ({
        picture: id,
        colour: trx.raw('cube(?::float8[])', [[l, a, b]]),
        share,
      })),
    );
  });
}

/** Pictures that can be measured and were not yet, or not wholly. */
export async function findUnmeasured(knex: Knex, limit: number): Promise<string[]> {
  const rows = await knex('pictures')
    .where({ state: 'ready' })
    .whereRaw(
      '(measures is null or not exists (select from picture_histograms h where h.picture = pictures.id))',
    )
    .limit(limit)
    .select('id');
  return rows.map(({ id }) => id);
}

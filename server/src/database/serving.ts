import type { Subject } from '@miradero/core/schema';
import type { Serving } from '@miradero/core/subject';
import type { Knex } from './connection.ts';

/** Ids under which pictures are given to a subject: its own, its parts', and those of their parts. */
export const idsOfSubject = ({ id, parts }: Pick<Subject, 'id' | 'parts'>): string[] => [
  id,
  ...parts.flatMap((part) => [part.id, ...part.parts.map((inner) => inner.id)]),
];

/** What is known of the pictures that serve a subject, as far as its coverage goes. */
export async function findServing(knex: Knex, owner: string, subject: Subject): Promise<Serving[]> {
  const rows = await knex('pictures')
    .where({ owner, is_put_away: false })
    .whereRaw('parts && ?::uuid[]', [idsOfSubject(subject)])
    .orderBy([{ column: 'added_at', order: 'desc' }, { column: 'id' }])
    .select(
      'id',
      'parts',
      'views',
      'is_to_scale',
      'kind',
      knex.raw("(measures ->> 'modelling')::float8 as modelling"),
    );
  return rows.map(({ id, parts, views, is_to_scale, kind, modelling }) => ({
    ...{ id, parts, modelling, isToScale: is_to_scale, view: views[subject.id], isModel: kind === 'model' },
  }));
}

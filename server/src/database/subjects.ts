import type { PutSubject, Subject } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

const SELECT = `select s.id, s.name, s.parts, s.is_put_away as "isPutAway",
    (select count(*)::int from pictures p where p.owner = s.owner and not p.is_put_away and p.parts &&
      (array[s.id] || array(select (part ->> 'id')::uuid from jsonb_array_elements(s.parts) part)
        || array(select (inner_part ->> 'id')::uuid from jsonb_array_elements(s.parts) part,
             jsonb_array_elements(part -> 'parts') inner_part))) as pictures
  from subjects s where s.owner = :owner`;

/** In the order in which they were made. */
export async function listSubjects(knex: Knex, owner: string): Promise<Subject[]> {
  const { rows } = await knex.raw(`${SELECT} order by s.added_at, s.id`, { owner });
  return rows;
}

export async function findSubject(knex: Knex, owner: string, id: string): Promise<Subject | undefined> {
  const { rows } = await knex.raw(`${SELECT} and s.id = :id`, { owner, id });
  return rows[0];
}

/**
 * Sets what is named of a subject; makes it where it is not there.
 *
 * @returns false when another owner has that id, or a new one has no name
 */
export async function putSubject(
  knex: Knex,
  owner: string,
  id: string,
  { name, parts, isPutAway }: PutSubject,
): Promise<boolean> {
  const set = {
    ...(name === undefined ? {} : { name: name.trim() }),
    ...(parts === undefined ? {} : { parts: JSON.stringify(parts) }),
    ...(isPutAway === undefined ? {} : { is_put_away: isPutAway }),
  };
  if ((await knex('subjects').where({ owner, id }).update(set)) > 0) return true;
  if (name === undefined) return false;
  const rows = await knex('subjects')
    .insert({ id, owner, name: name.trim(), ...set })
    .onConflict('id')
    .ignore()
    .returning('id');
  return rows.length > 0;
}

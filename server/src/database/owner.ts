import type { Knex } from './connection.ts';

/** The one local owner; later, whoever signed in. */
export async function findLocalOwner(knex: Knex): Promise<string> {
  const row = await knex('owners').where({ name: 'local' }).first('id');
  if (!row) throw new Error('The database has no local owner: was it migrated?');
  return row.id;
}

export async function findDatabaseId(knex: Knex): Promise<string> {
  const row = await knex('installation').first('id');
  if (!row) throw new Error('The database has no id: was it migrated?');
  return row.id;
}

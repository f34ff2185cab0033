import type { Settings } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

export async function findSettings(knex: Knex, owner: string): Promise<Settings> {
  const rows = await knex('owner_settings').where({ owner }).select('name', 'value');
  return Object.fromEntries(rows.map(({ name, value }) => [name, value])) as Settings;
}

/** Sets each named setting whole; those not named stay. */
export async function saveSettings(knex: Knex, owner: string, settings: Settings): Promise<void> {
  const rows = Object.entries(settings).map(([name, value]) => ({
    owner,
    name,
    value: JSON.stringify(value),
  }));
  if (rows.length === 0) return;
  await knex('owner_settings').insert(rows).onConflict(['owner', 'name']).merge();
}

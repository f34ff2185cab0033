import { openDB } from 'idb';

const PREFIX = 'miradero-';

/**
 * How much this browser keeps for other databases than the one that is served now: changes and pictures that were never
 * sent. Nothing of it is lost; it goes as soon as its own database is served at this address again.
 */
export async function countKeptElsewhere(databaseId: string): Promise<number> {
  const stores = (await indexedDB.databases?.().catch(() => [])) ?? [];
  let count = 0;
  for (const { name, version } of stores) {
    if (!name?.startsWith(PREFIX) || name === `${PREFIX}${databaseId}` || !version) continue;
    const database = await openDB(name, version);
    const isOurs = ['outbox', 'files'].every((store) => database.objectStoreNames.contains(store));
    if (isOurs) count += (await database.count('outbox')) + (await database.count('files'));
    database.close();
  }
  return count;
}

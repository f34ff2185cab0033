import type { Knex } from '../database/connection.ts';
import { findLocalOwner } from '../database/owner.ts';
import type { FindAsker } from '../requests/route.ts';

/**
 * Who asks, found for each request. As long as the server is reached on this computer alone, that is its local owner,
 * whoever sits there; sessions of others will be told apart here, and nowhere else.
 */
export function findAsker(knex: Knex): FindAsker {
  let local: Promise<string> | undefined;
  return async () => {
    // Asked once: that one stays as long as the database does. What failed is asked again.
    local ??= findLocalOwner(knex).catch((error) => {
      local = undefined;
      throw error;
    });
    return { owner: await local };
  };
}

import { randomUUID } from 'node:crypto';
import { takenOut } from '@miradero/core/board';
import { EXPORT_ROUTES } from '@miradero/core/contracts';
import { isBay, isPlacement } from '@miradero/core/items';
import { cleanName, portableName } from '@miradero/core/picture';
import type { CreateExport, Export } from '@miradero/core/schema';
import { findItems } from '../database/board-items.ts';
import { findBoard } from '../database/boards.ts';
import type { Knex } from '../database/connection.ts';
import { addExport, findExport, type KeptExport, recordExport } from '../database/exports.ts';
import { findPicture } from '../database/pictures.ts';
import { EXPORT } from '../jobs/kinds.ts';
import type { Queue } from '../jobs/queue.ts';
import { ProblemError } from '../requests/problem.ts';
import { type Route, routesFor } from '../requests/route.ts';
import { findBlob } from '../storage/blob-store.ts';
import { sendBlob } from '../storage/send-blob.ts';

/** Whoever asks for a file waits for it so long; a hand that drags one out asks before it is made. */
const WAIT_MS = 10 * 60_000;
const LOOK_MS = 250;
const NAMED_MS = 1_500;

const rest = () => new Promise((resolve) => setTimeout(resolve, LOOK_MS));

const exportOf = ({ owner: _, request: __, hash: ___, ...facts }: KeptExport): Export => facts;

/** @throws ProblemError `export-missing` */
async function ownExport(knex: Knex, owner: string, id: string): Promise<KeptExport> {
  const kept = await findExport(knex, id);
  if (kept?.owner !== owner) throw new ProblemError('export-missing');
  return kept;
}

/** What its file is called, without its ending: after the bay or the one picture that it shows, else after the board. */
async function nameOf(
  knex: Knex,
  owner: string,
  boardName: string,
  items: Parameters<typeof takenOut>[0],
  { items: ids }: CreateExport,
): Promise<string> {
  const only = ids?.length === 1 ? items.get(ids[0]!) : undefined;
  const picture = only && isPlacement(only) ? await findPicture(knex, owner, only.picture) : undefined;
  const own = picture?.name ?? (only && isBay(only) ? cleanName(only.title) : '');
  return portableName(own || boardName);
}

/** Waits until something is made. @throws ProblemError when it cannot be, or nobody waits any more */
async function untilMade(knex: Knex, owner: string, id: string, isGone: () => boolean): Promise<KeptExport> {
  const end = Date.now() + WAIT_MS;
  const begun = Date.now();
  for (;;) {
    const found = await findExport(knex, id);
    // A hand that drags something out names it before it is asked for.
    if (!found && Date.now() - begun < NAMED_MS && !isGone()) {
      await rest();
      continue;
    }
    const kept = await ownExport(knex, owner, id);
    if (kept.state === 'done') return kept;
    if (kept.state === 'failed') throw new ProblemError('export-unmade', kept.why ?? undefined);
    if (kept.state === 'stopped') throw new ProblemError('export-unmade', 'It was stopped.');
    if (isGone() || Date.now() > end) throw new ProblemError('export-unmade', 'It is not made yet.');
    await rest();
  }
}

/** Everything under `/api/exports`: what is taken out of boards as files. */
export const exportRoutes = (knex: Knex, queue: Queue): Route[] =>
  routesFor(EXPORT_ROUTES, {
    async 'POST /api/boards/:id/exports'({ owner, parameters: { id: board }, body, response }) {
      const found = await findBoard(knex, owner, board);
      if (!found) throw new ProblemError('board-missing');
      const { id = randomUUID(), ...request } = body;
      const items = new Map((await findItems(knex, board)).map((item) => [item.id, item]));
      const isWhole = request.as === 'board-file';
      const taken = isWhole || takenOut(items, request.items);
      if (!taken || (taken !== true && request.as === 'each' && !taken.items.some(isPlacement)))
        throw new ProblemError('nothing-to-take');
      const name = await nameOf(knex, owner, found.name, items, body);
      await knex.transaction(async (trx) => {
        if (await addExport(trx, { id, owner, board, name, request }))
          await queue.send(trx, EXPORT, { export: id });
        else response.status(200);
      });
      return { export: exportOf(await ownExport(knex, owner, id)) };
    },

    'GET /api/exports/:id': async ({ owner, parameters: { id } }) => ({
      export: exportOf(await ownExport(knex, owner, id)),
    }),

    async 'PATCH /api/exports/:id'({ owner, parameters: { id } }) {
      await ownExport(knex, owner, id);
      await recordExport(knex, id, { state: 'stopped' });
      return { export: exportOf(await ownExport(knex, owner, id)) };
    },

    async 'GET /api/exports/:id/file'({ owner, parameters: { id }, request, response }) {
      const { hash, name } = await untilMade(knex, owner, id, () => response.destroyed);
      const facts = hash === null ? undefined : await findBlob(knex, hash);
      if (!facts) throw new ProblemError('export-missing');
      response.attachment(name);
      await sendBlob(knex, request, response, hash!, facts);
    },
  });

import type { CreateExport, Export, ExportState } from '@miradero/core/schema';
import type { Knex } from './connection.ts';
import { notifyNews } from './notify.ts';

/** What was taken out can be fetched so long. */
const KEPT_FOR = '24 hours';

export type ExportRequest = Omit<CreateExport, 'id'> & {
  /** The link by which it is given: then it has what the link shows, and nothing more. */
  readonly link?: string;
};

/** One as it is kept: what was asked for, and where its bytes are. */
export interface KeptExport extends Export {
  readonly owner: string;
  readonly request: ExportRequest;
  readonly hash: string | null;
}

interface Row {
  id: string;
  owner: string;
  board: string;
  request: ExportRequest;
  name: string;
  state: ExportState;
  why: string | null;
  width: number | null;
  height: number | null;
  missing: number;
  hash: string | null;
  bytes: string | null;
}

const keptOf = ({ bytes, ...row }: Row): KeptExport => ({
  ...row,
  bytes: bytes === null ? null : Number(bytes),
});

const COLUMNS = [
  ...(['id', 'owner', 'board', 'request', 'name', 'state', 'why'] as const),
  ...(['width', 'height', 'missing', 'hash', 'bytes'] as const),
];

/** @returns false when the id is taken */
export async function addExport(
  trx: Knex,
  { owner, board, id, name, request }: Pick<KeptExport, 'owner' | 'board' | 'id' | 'name' | 'request'>,
): Promise<boolean> {
  const row = { id, owner, board, name, request: JSON.stringify(request) };
  const rows = await trx('exports').insert(row).onConflict('id').ignore().returning('id');
  return rows.length > 0;
}

/** Takes one away that ended in one of some states, so that it can be asked for anew. */
export async function removeExport(trx: Knex, id: string, states: readonly ExportState[]): Promise<void> {
  await trx('exports')
    .where({ id })
    .whereIn('state', [...states])
    .delete();
}

export async function findExport(knex: Knex, id: string): Promise<KeptExport | undefined> {
  const row = await knex('exports').where({ id }).first(COLUMNS);
  return row && keptOf(row);
}

const isOver = ['done', 'failed', 'stopped'];

/** Records what became of one that is not over yet, and tells of it. @returns whether it was not */
export async function recordExport(
  knex: Knex,
  id: string,
  values: Partial<
    Pick<KeptExport, 'state' | 'why' | 'width' | 'height' | 'missing' | 'hash' | 'bytes' | 'name'>
  >,
): Promise<boolean> {
  const rows: { owner: string }[] = await knex('exports')
    .where({ id })
    .whereNotIn('state', isOver)
    .update(values)
    .returning('owner');
  for (const { owner } of rows) await notifyNews(knex, owner, { kind: 'export', export: id });
  return rows.length > 0;
}

export async function removeOldExports(knex: Knex): Promise<void> {
  await knex('exports')
    .where('created_at', '<', knex.raw('now() - ?::interval', [KEPT_FOR]))
    .delete();
}

import { createHash, randomBytes } from 'node:crypto';
import type { Knex } from './connection.ts';

/** A link to look at a board. `secret` stands in its address; who has it may look. */
export interface Link {
  readonly id: string;
  readonly owner: string;
  readonly board: string;
  readonly secret: string;
  readonly title: string;
  readonly withOriginals: boolean;
  /** What those who look are asked to do; '' for nothing. */
  readonly tasks: string;
  readonly createdAt: string;
  readonly endedAt: string | null;
}

/** One that leads somewhere, with the state in which its board is. */
export interface OpenLink extends Link {
  readonly revision: number;
}

/** Somebody who looks by a link, under a name that they gave. */
export interface Guest {
  readonly id: string;
  readonly link: string;
  readonly name: string;
  readonly sentAt: string | null;
}

export interface GuestRemark {
  readonly id: string;
  readonly item: string | null;
  readonly text: string;
}

const SECRET_BYTES = 24;
/** 192 bits, as an address takes them. */
export const makeSecret = (): string => randomBytes(SECRET_BYTES).toString('base64url');
const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

interface LinkRow {
  id: string;
  owner: string;
  board: string;
  secret: string;
  title: string;
  with_originals: boolean;
  tasks: string;
  created_at: Date;
  ended_at: Date | null;
}
const linkOf = (row: LinkRow): Link => ({
  ...{
    id: row.id,
    owner: row.owner,
    board: row.board,
    secret: row.secret,
    title: row.title,
    tasks: row.tasks,
  },
  ...{ withOriginals: row.with_originals, createdAt: row.created_at.toISOString() },
  endedAt: row.ended_at?.toISOString() ?? null,
});

/** @returns false when the id is taken */
export async function addLink(
  knex: Knex,
  { id, owner, board, title, withOriginals, tasks }: Omit<Link, 'secret' | 'createdAt' | 'endedAt'>,
): Promise<boolean> {
  const row = { id, owner, board, title, tasks, with_originals: withOriginals, secret: makeSecret() };
  return (await knex('links').insert(row).onConflict('id').ignore().returning('id')).length > 0;
}

export async function findLink(knex: Knex, owner: string, id: string): Promise<Link | undefined> {
  const row = await knex('links').where({ owner, id }).first();
  return row && linkOf(row);
}

export async function findLinksOfBoard(knex: Knex, owner: string, board: string): Promise<Link[]> {
  return (await knex('links').where({ owner, board }).orderBy('created_at', 'desc')).map(linkOf);
}

/** The link of a secret, unless it was ended, or its board is put away. */
export async function findLinkBySecret(knex: Knex, secret: string): Promise<OpenLink | undefined> {
  const row = await knex('links')
    .join('boards', 'boards.id', 'links.board')
    .where({ secret, put_away: false })
    .whereNull('ended_at')
    .first('links.*', 'boards.revision');
  return row && { ...linkOf(row), revision: Number(row.revision) };
}

export async function endLink(knex: Knex, owner: string, id: string): Promise<void> {
  await knex('links').where({ owner, id }).whereNull('ended_at').update({ ended_at: knex.fn.now() });
}

const guestOf = (row: { id: string; link: string; name: string; sent_at: Date | null }): Guest => ({
  ...{ id: row.id, link: row.link, name: row.name },
  sentAt: row.sent_at?.toISOString() ?? null,
});

/** Lets somebody look under a name. @returns the token by which they are known, undefined where there are `most` already */
export async function addGuest(
  trx: Knex,
  link: string,
  id: string,
  name: string,
  most: number,
): Promise<string | undefined> {
  // One after the other: together they would count the same.
  await trx('links').where({ id: link }).forUpdate().first('id');
  const [{ count }] = (await trx('link_guests').where({ link }).count({ count: '*' })) as [{ count: string }];
  if (Number(count) >= most) return undefined;
  const token = makeSecret();
  await trx('link_guests').insert({ id, link, name, token_hash: hashOf(token) });
  return token;
}

export async function findGuest(knex: Knex, link: string, token: string): Promise<Guest | undefined> {
  const row = await knex('link_guests')
    .where({ link, token_hash: hashOf(token) })
    .first();
  return row && guestOf(row);
}

export async function findGuests(knex: Knex, link: string): Promise<Guest[]> {
  return (await knex('link_guests').where({ link }).orderBy('created_at')).map(guestOf);
}

export async function putChoice(
  knex: Knex,
  guest: string,
  item: string,
  choice: 'yes' | 'no' | null,
): Promise<void> {
  if (choice === null) await knex('link_choices').where({ guest, item }).delete();
  else await knex('link_choices').insert({ guest, item, choice }).onConflict(['guest', 'item']).merge();
}

export async function findChoices(knex: Knex, guest: string): Promise<Map<string, 'yes' | 'no'>> {
  const rows = await knex('link_choices').where({ guest }).select('item', 'choice');
  return new Map(rows.map(({ item, choice }) => [item, choice]));
}

/** @returns false where there are `most` already */
export async function addRemark(
  trx: Knex,
  guest: string,
  { id, item, text }: GuestRemark,
  most: number,
): Promise<boolean> {
  await trx('link_guests').where({ id: guest }).forUpdate().first('id');
  const [{ count }] = (await trx('link_remarks').where({ guest }).count({ count: '*' })) as [
    { count: string },
  ];
  if (Number(count) >= most) return false;
  await trx('link_remarks').insert({ id, guest, item, text });
  return true;
}

export async function findRemarks(knex: Knex, guest: string): Promise<GuestRemark[]> {
  return knex('link_remarks').where({ guest }).orderBy(['made_at', 'id']).select('id', 'item', 'text');
}

export async function noteSent(knex: Knex, guest: string): Promise<void> {
  await knex('link_guests').where({ id: guest }).update({ sent_at: knex.fn.now() });
}

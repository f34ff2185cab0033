import { randomUUID } from 'node:crypto';
import { isPlacement } from '@miradero/core/items';
import { choicesOnBoard } from '@miradero/core/links';
import { cleanName } from '@miradero/core/picture';
import type { Item } from '@miradero/core/schema';
import { cutText, storableText } from '@miradero/core/text';
import { acceptChanges } from '../boards/accept-changes.ts';
import { findItems } from '../database/board-items.ts';
import type { Knex } from '../database/connection.ts';
import {
  addGuest,
  addRemark,
  findChoices,
  findGuest,
  findLinkBySecret,
  findRemarks,
  type Guest,
  type Link,
  noteSent,
  type OpenLink,
  putChoice,
} from '../database/links.ts';
import type { Queue } from '../jobs/queue.ts';
import { givesFile } from './file-to-take.ts';
import { ENDED, LookingError } from './looking-error.ts';
import type { Shown } from './shown-boards.ts';

/** What those who look may leave behind. */
export const LOOKING_LIMITS = {
  guests: 200,
  remarks: 200,
  remarkLetters: 2_000,
  nameLetters: 60,
} as const;

/** @throws LookingError for a secret that nobody has */
export async function linkOf(knex: Knex, secret: string): Promise<OpenLink> {
  const link = /^[\w-]{32}$/.test(secret) ? await findLinkBySecret(knex, secret) : undefined;
  if (!link) throw new LookingError(404, ENDED);
  return link;
}

/** The board as its looker's page has it: paths lead to the link's own copies. */
export function boardFor(link: Link, shown: Shown) {
  const name = link.title || shown.name;
  return {
    ...shown.viewer(),
    name,
    withOriginals: link.withOriginals,
    givesFile: givesFile(link),
    tasks: link.tasks,
  };
}

/** A copy that the link shows. @throws LookingError for any other */
export function copyOf({ pictures }: Shown, picture: string, side: number): string {
  const levels = pictures.get(picture)?.levels ?? [];
  const level = levels.find((one) => one.side >= side) ?? levels.at(-1);
  if (!level) throw new LookingError(404, 'This picture is not shown here.');
  return level.hash;
}

/** Somebody looks under a name. */
export async function enter(
  knex: Knex,
  link: Link,
  given: unknown,
): Promise<{ token: string; name: string }> {
  const name =
    typeof given === 'string' ? cutText(cleanName(storableText(given)), LOOKING_LIMITS.nameLetters) : '';
  if (name === '') throw new LookingError(400, 'A name is needed.');
  const token = await knex.transaction((trx) =>
    addGuest(trx, link.id, randomUUID(), name, LOOKING_LIMITS.guests),
  );
  if (!token)
    throw new LookingError(429, 'So many looked by this link already that nobody more can be named.');
  return { token, name };
}

/** @throws LookingError for a token that nobody has */
export async function guestOf(knex: Knex, link: Link, token: unknown): Promise<Guest> {
  const guest =
    typeof token === 'string' && token.length < 100 ? await findGuest(knex, link.id, token) : undefined;
  if (!guest) throw new LookingError(401, 'Say your name first.');
  return guest;
}

/** What a guest said so far. */
export const saidBy = async (knex: Knex, guest: Guest) => ({
  name: guest.name,
  sentAt: guest.sentAt,
  choices: Object.fromEntries(await findChoices(knex, guest.id)),
  remarks: await findRemarks(knex, guest.id),
});

function shownItem({ items }: Shown, item: unknown): Item {
  const found = items.find(({ id }) => id === item);
  if (!found) throw new LookingError(404, 'This is not on the board any more.');
  return found;
}

export async function choose(
  knex: Knex,
  shown: Shown,
  guest: Guest,
  item: unknown,
  choice: unknown,
): Promise<void> {
  if (choice !== 'yes' && choice !== 'no' && choice !== null)
    throw new LookingError(400, 'Yes, no, or neither.');
  const found = shownItem(shown, item);
  if (!isPlacement(found)) throw new LookingError(400, 'Only pictures are laid on yes or no.');
  await putChoice(knex, guest.id, found.id, choice);
}

export async function remark(
  knex: Knex,
  shown: Shown,
  guest: Guest,
  item: unknown,
  given: unknown,
): Promise<void> {
  const text = typeof given === 'string' ? storableText(given).trim() : '';
  if (text === '') throw new LookingError(400, 'There is nothing in it.');
  if (text.length > LOOKING_LIMITS.remarkLetters)
    throw new LookingError(
      413,
      `A remark has at most ${LOOKING_LIMITS.remarkLetters.toLocaleString('en')} letters.`,
    );
  const on = item === null ? null : shownItem(shown, item).id;
  const isAdded = await knex.transaction((trx) =>
    addRemark(trx, guest.id, { id: randomUUID(), item: on, text }, LOOKING_LIMITS.remarks),
  );
  if (!isAdded) throw new LookingError(429, 'You left as many remarks as can be.');
}

/** Somebody may alter the board between reading and writing it: then it is read again, so often. */
const TRIES = 5;

/** Lays what a guest said onto the board, as a change of theirs. */
export async function send(knex: Knex, queue: Queue, link: Link, guest: Guest): Promise<void> {
  const [choices, remarks] = [await findChoices(knex, guest.id), await findRemarks(knex, guest.id)];
  const said = { id: guest.id, name: guest.name, choices, remarks };
  for (let tries = 1; ; tries += 1) {
    const items = new Map((await findItems(knex, link.board)).map((item) => [item.id, item]));
    const operations = choicesOnBoard(items, said);
    if (operations.length === 0) break;
    const changes = [{ id: randomUUID(), operations }];
    const [outcome] = await acceptChanges(knex, queue, link.owner, link.board, changes, guest.name);
    if (!outcome || !('refused' in outcome)) break;
    if (tries === TRIES) throw new LookingError(409, outcome.refused.title);
  }
  await noteSent(knex, guest.id);
}

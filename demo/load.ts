import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { createNote, createPlacement, keysOnTop, WHOLE } from '@miradero/core/board';
import type { Board, ChangeOutcome, IntakeAnswer, Item, Picture } from '@miradero/core/schema';
import { BOARDS, type DemoBoard } from './boards.ts';

/** Loads the demo into a running server through its real intake and real changes: `load.ts http://127.0.0.1:4860`. */
const PICTURES = fileURLToPath(new URL('./pictures/', import.meta.url));

async function ask<T>(address: string, path: string, method = 'GET', body?: object): Promise<T> {
  const response = await fetch(`${address}${path}`, {
    method,
    ...(body ? { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } } : {}),
  });
  if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`);
  return (await response.json()) as T;
}

async function bringIn(address: string, file: string, name: string): Promise<Picture> {
  const form = new FormData();
  form.append('file', new Blob([await readFile(`${PICTURES}${file}`)], { type: 'image/jpeg' }), file);
  const response = await fetch(`${address}/api/pictures`, { method: 'POST', body: form });
  const answer = (await response.json()) as IntakeAnswer;
  const [picture] = answer.pictures;
  if (!picture) throw new Error(`${file} was refused: ${answer.refused[0]?.title}`);
  await ask(address, `/api/pictures/${picture.id}`, 'PATCH', { name });
  return picture;
}

/** Items of a demo board as they stand; lengths are board units. */
async function itemsOf(address: string, board: DemoBoard): Promise<Item[]> {
  const stacks = keysOnTop([], board.placements.length + board.notes.length);
  const items: Item[] = [];
  for (const { file, name, x, y, width, trim, flipX = false } of board.placements) {
    const picture = await bringIn(address, file, name);
    const kept = trim ?? WHOLE;
    const height = (width * kept.height * picture.height) / (kept.width * picture.width);
    items.push(
      createPlacement({
        ...{ id: randomUUID(), stack: stacks[items.length]!, picture: picture.id },
        ...{ pictureWidth: picture.width, pictureHeight: picture.height },
        centre: { x: x + width / 2, y: y + height / 2 },
        ...{ width, flipX, trim: kept },
      }),
    );
  }
  for (const { text, x, y, width, height } of board.notes) {
    const centre = { x: x + width / 2, y: y + height / 2 };
    const stack = stacks[items.length]!;
    items.push(createNote({ id: randomUUID(), stack, centre, width, height, text }));
  }
  return items;
}

async function loadBoard(address: string, board: DemoBoard): Promise<void> {
  await ask(address, '/api/boards', 'POST', { id: board.id, name: board.name });
  const operations = (await itemsOf(address, board)).map((create) => ({ create }));
  const { outcomes } = await ask<{ outcomes: ChangeOutcome[] }>(
    address,
    `/api/boards/${board.id}/changes`,
    'POST',
    {
      changes: [{ id: randomUUID(), operations }],
    },
  );
  const [outcome] = outcomes;
  if (outcome && 'refused' in outcome) throw new Error(`the board was refused: ${outcome.refused.title}`);
}

/** The demo shows itself whole: its pictures have their levels. */
async function waitForLevels(address: string): Promise<void> {
  for (let patience = 0; patience < 240; patience += 1) {
    const { pictures } = await ask<{ pictures: Picture[] }>(address, '/api/pictures');
    if (pictures.every((picture) => picture.state !== 'arriving')) return;
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
}

export async function loadDemo(address: string): Promise<void> {
  const { boards } = await ask<{ boards: Board[] }>(address, '/api/boards');
  const missing = BOARDS.filter(({ id }) => !boards.some((board) => board.id === id && board.revision > 0));
  if (missing.length === 0) return;
  console.log('loading the demo …');
  for (const board of missing) await loadBoard(address, board);
  await waitForLevels(address);
}

if (process.argv[1] === fileURLToPath(import.meta.url))
  await loadDemo(process.argv[2] ?? 'http://127.0.0.1:4860');

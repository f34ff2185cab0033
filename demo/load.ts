import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { boardAfter, fitToContent, group, keysOnTop, layInLine, settle } from '@miradero/core/board';
import {
  createLink,
  createNote,
  createPlacement,
  createWorkingSet,
  heightOf,
  isCluster,
  noteHeightFor,
  SHEET_ID,
  WHOLE,
} from '@miradero/core/items';
import { choicesOnBoard } from '@miradero/core/links';
import type {
  AboutDrawing,
  Board,
  BoardSnapshot,
  ChangeOutcome,
  IntakeAnswer,
  Item,
  Picture,
  PictureSource,
  Settings,
} from '@miradero/core/schema';
import { type DemoSheet, fillingSheet, PAGE_AT_THE_EASEL, STUDY_OF_LANTERN } from './at-the-easel.ts';
import { BOARDS, type DemoBoard, GAP, type Hung, LANDED, type Row } from './boards.ts';
import { litBallBelow, paletteBelow, pinnedOn, swatchesOf } from './colours.ts';
import { LICENCES, WORKS } from './commons/catalog.ts';
import { markOn } from './drawn.ts';
import { momentsOf, type Past, pastOf, sayBy, spreadOut } from './past.ts';
import { filesInLibrary, SHELF, SUBJECTS, saidOf, TAG_COLOURS } from './sorting.ts';
import { studyHalfDone } from './study.ts';
import type { Truth } from './truth/truth.ts';

/**
 * Loads the demo into a running server through its real intake and real changes:
 * `load.ts http://127.0.0.1:4860 [address of the stand-in web]`.
 */
const PICTURES = fileURLToPath(new URL('./pictures/', import.meta.url));
/** So many files are on their way at once. */
const LANES = 3;

async function ask<T>(address: string, path: string, method = 'GET', body?: object): Promise<T> {
  const response = await fetch(`${address}${path}`, {
    method,
    ...(body ? { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } } : {}),
  });
  if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

export async function truthOf(file: string): Promise<Truth> {
  return JSON.parse(await readFile(`${PICTURES}${file}.truth.json`, 'utf8')) as Truth;
}

/** A picture that the stand-in web shows, too, comes from there; the others are the person's own. */
function sourceOf(file: string, commons: string | undefined): Partial<PictureSource> | undefined {
  const work = WORKS.find((one) => one.file === file);
  if (!work || !commons) return undefined;
  const { name } = LICENCES[work.licence];
  const licence = `${name} (${commons}/licence/${work.licence})`;
  return { page: `${commons}/work/${work.id}`, title: work.title, creator: work.author, licence };
}

async function bringIn(
  address: string,
  file: string,
  commons: string | undefined,
  drawing?: AboutDrawing,
): Promise<Picture> {
  const { title, mediaType } = await truthOf(file);
  const form = new FormData();
  const source = sourceOf(file, commons);
  form.append('about', JSON.stringify({ name: title, ...(source ? { source } : {}), drawing }));
  const poster = `${PICTURES}${file}.poster.webp`;
  if (existsSync(poster)) form.append('poster', new Blob([await readFile(poster)]), 'poster.webp');
  form.append('file', new Blob([await readFile(`${PICTURES}${file}`)], { type: mediaType }), file);
  const response = await fetch(`${address}/api/pictures`, { method: 'POST', body: form });
  const answer = (await response.json()) as IntakeAnswer;
  const [picture] = answer.pictures;
  if (!picture) throw new Error(`${file} was refused: ${answer.refused[0]?.title}`);
  return picture;
}

const asHung = (picture: string | Hung): Hung => (typeof picture === 'string' ? { file: picture } : picture);

const filesOf = ({ rows }: DemoBoard): string[] =>
  rows.flatMap(({ pictures }) => pictures.map((picture) => asHung(picture).file));

/** Files brought in a few at a time. */
async function bringAll(
  address: string,
  wanted: readonly string[],
  commons: string | undefined,
): Promise<ReadonlyMap<string, Picture>> {
  const files = [...wanted];
  const pictures = new Map<string, Picture>();
  const lane = async () => {
    for (let file = files.shift(); file; file = files.shift())
      pictures.set(file, await bringIn(address, file, commons));
  };
  await Promise.all(Array.from({ length: LANES }, lane));
  return pictures;
}

/** A row's pictures from left to right; `stacks` gives each its place in the pile. */
function hangRow(row: Row, pictures: ReadonlyMap<string, Picture>, stacks: Iterator<string>): Item[] {
  let left = row.x;
  return row.pictures.map(asHung).map(({ file, trim = WHOLE, flipX = false, turn = 0, opacity = 1 }) => {
    const picture = pictures.get(file)!;
    const width = (row.height * trim.width * picture.width) / (trim.height * picture.height);
    const centre = { x: left + width / 2, y: row.y + row.height / 2 };
    left += width + GAP;
    return createPlacement({
      ...{ id: randomUUID(), stack: stacks.next().value as string, picture: picture.id },
      ...{ pictureWidth: picture.width, pictureHeight: picture.height },
      ...{ centre, width, flipX, turn, opacity, trim },
    });
  });
}

/** Where pages are that nobody serves. */
const NO_COMMONS = 'https://commons.example';

/** Items of a demo board as they stand; lengths are board units. */
function itemsOf(board: DemoBoard, pictures: ReadonlyMap<string, Picture>, commons = NO_COMMONS): Item[] {
  const { cards = [] } = board;
  const count = board.rows.reduce((sum, row) => sum + row.pictures.length, board.notes.length + cards.length);
  const stacks = keysOnTop([], count)[Symbol.iterator]();
  const hung = board.rows.flatMap((row) => hangRow(row, pictures, stacks));
  const notes = board.notes.map(({ x, y, height: said, ...note }) => {
    const height = said ?? noteHeightFor(note.text, note);
    const centre = { x: x + note.width / 2, y: y + height / 2 };
    return createNote({
      ...{ id: randomUUID(), stack: stacks.next().value as string, centre, height },
      ...note,
    });
  });
  const links = cards.map(({ path, title, site, still, x, y }) => {
    const picture = pictures.get(still)!;
    const link = createLink({
      ...{ id: randomUUID(), stack: stacks.next().value as string, address: `${commons}${path}` },
      ...{ centre: { x, y }, title, site },
      ...{ picture: picture.id, pictureWidth: picture.width, pictureHeight: picture.height },
    });
    return { ...link, centre: { x: x + link.width / 2, y: y + heightOf(link) / 2 } };
  });
  return [...hung, ...notes, ...links];
}

/** The id of what a cluster holds: `items` are the pictures row by row, then the notes. */
function idOfHeld(board: DemoBoard, items: readonly Item[], held: string | number): string {
  const files = filesOf(board);
  return items[typeof held === 'number' ? files.length + held : files.indexOf(held)]!.id;
}

/** The same with what lies together in clusters, everything settled then. */
function withClusters(board: DemoBoard, items: readonly Item[]): Item[] {
  if (!board.clusters) return [...items];
  let now: Map<string, Item> = new Map(items.map((item) => [item.id, item]));
  for (const { title, tint = 'paper', holds, isStrip = false } of board.clusters) {
    const id = randomUUID();
    const ids = holds.map((held) => idOfHeld(board, items, held));
    const members = ids.map((one) => now.get(one)!);
    now = boardAfter(now, [...group(now, members, id), { item: id, set: { title, tint, isStrip } }]);
    const cluster = now.get(id)!;
    if (!isCluster(cluster)) continue;
    if (isStrip) now = boardAfter(now, layInLine(now, cluster, ids, GAP));
    else {
      now = boardAfter(
        now,
        settle(now, members, { form: 'tight', gap: GAP, aspect: SHAPE, centre: cluster.centre }),
      );
      now = boardAfter(now, fitToContent(now, [now.get(id)!]));
    }
  }
  return [...boardAfter(now, settle(now, now.values(), { form: 'tight', gap: GAP, aspect: SHAPE })).values()];
}

/** Width by height of a board that fills a window. */
const SHAPE = 1.6;

/** What hands drew on the pictures of a board. */
function drawnOn(board: DemoBoard, set: readonly Item[], items: readonly Item[]): Item[] {
  const drawn = board.drawn ?? [];
  const stacks = keysOnTop(set, drawn.length);
  return drawn.map((one, index) => {
    const placed = set.find(({ id }) => id === idOfHeld(board, items, one.on))!;
    return markOn(placed, one, { id: randomUUID(), stack: stacks[index]!, seed: index + 1 });
  });
}

/** Pictures that were tried, below all others. */
function triedOn({ tried = [] }: DemoBoard, pictures: ReadonlyMap<string, Picture>): Item[] {
  const row = { x: 0, y: 1_120, height: 240, pictures: tried };
  return hangRow(row, pictures, keysOnTop([], tried.length)[Symbol.iterator]());
}

/** Puts what was done to a board on it, and says when it was done where the database can be told. */
async function makePast(
  { address, databaseUrl }: Loading,
  board: string,
  past: Past,
): Promise<ChangeOutcome[]> {
  const { outcomes } = await ask<{ outcomes: ChangeOutcome[] }>(
    ...([address, `/api/boards/${board}/changes`, 'POST', { changes: past.changes }] as const),
  );
  for (const [index, { name }] of past.deeds.entries())
    if (name)
      await ask(address, `/api/named-states/${randomUUID()}`, 'PATCH', { board, revision: index + 1, name });
  if (databaseUrl) await spreadOut(databaseUrl, board, momentsOf(past, new Date()));
  return outcomes;
}

/** Puts onto a board what a partner handed in by a link, under their name where the database can be told. */
async function handIn(
  { address, databaseUrl }: Loading,
  board: DemoBoard,
  items: readonly Item[],
): Promise<void> {
  const { choices: given } = board;
  if (!given) return;
  const idOf = (file: string) => idOfHeld(board, items, file);
  const choices = new Map([
    ...given.yes.map((file) => [idOf(file), 'yes'] as const),
    ...given.no.map((file) => [idOf(file), 'no'] as const),
  ]);
  const remarks = given.remarks.map(({ on, text }) => ({
    ...{ id: randomUUID(), text },
    item: on === null ? null : idOf(on),
  }));
  const now = await ask<BoardSnapshot>(address, `/api/boards/${board.id}`);
  const standing = new Map(now.items.map((item) => [item.id, item]));
  const operations = choicesOnBoard(standing, { id: randomUUID(), name: given.by, choices, remarks });
  const changes = [{ id: randomUUID(), operations }];
  await ask(address, `/api/boards/${board.id}/changes`, 'POST', { changes });
  if (databaseUrl) await sayBy(databaseUrl, board.id, now.revision + 1, given.by);
}

async function loadBoard(loading: Loading, board: DemoBoard): Promise<void> {
  const { address, commons } = loading;
  const pictures = await bringAll(address, [...filesOf(board), ...(board.tried ?? [])], commons);
  await ask(address, '/api/boards', 'POST', { id: board.id, name: board.name });
  const items = itemsOf(board, pictures, commons);
  const set = withClusters(board, items);
  for (const { title, of } of board.palettes ?? []) {
    const placed = set.find(({ id }) => id === idOfHeld(board, items, of))!;
    set.push(await paletteBelow(set, placed, of, title, randomUUID()));
  }
  for (const form of board.balls ?? []) {
    const placed = set.find(({ id }) => id === idOfHeld(board, items, form.of))!;
    set.push(await litBallBelow(set, placed, form, randomUUID()));
  }
  set.push(...drawnOn(board, set, items));
  const stacks = keysOnTop(set, board.stages?.length ?? 0);
  const stages = (board.stages ?? []).map(({ title, holds }, index) =>
    createWorkingSet({
      ...{ id: randomUUID(), stack: stacks[index]!, title },
      members: holds.map((held) => idOfHeld(board, items, held)),
    }),
  );
  const last = [...set, ...stages];
  const past: Past = board.tried
    ? pastOf(items, triedOn(board, pictures), last)
    : { deeds: [], changes: [{ id: randomUUID(), operations: last.map((create) => ({ create })) }] };
  for (const outcome of await makePast(loading, board.id, past))
    if ('refused' in outcome) throw new Error(`the board was refused: ${outcome.refused.title}`);
  await handIn(loading, board, items);
}

/** A sheet of the easel, its drawing as it was saved again and again, and what it is drawn from beside it. */
async function loadSheet({ address, commons }: Loading, sheet: DemoSheet): Promise<void> {
  const { id: board, name, setup, need, guides, drawing } = sheet;
  await ask(address, '/api/boards', 'POST', { id: board, name, sheet: { setup, need } });
  const saves: Picture[] = [];
  // One after the other: the last one is the newest.
  for (const { file, minutesAgo } of sheet.saves) {
    const savedAt = new Date(Date.now() - 60_000 * minutesAgo).toISOString();
    saves.push(await bringIn(address, file, commons, { ...drawing, board, savedAt }));
  }
  const references = await bringAll(address, [...new Set(sheet.references.map(({ file }) => file))], commons);
  const stacks = keysOnTop([], 1 + sheet.references.length);
  const standing = (picture: Picture, index: number, more: object) =>
    createPlacement({
      ...{ id: randomUUID(), stack: stacks[index]!, picture: picture.id },
      ...{ pictureWidth: picture.width, pictureHeight: picture.height },
      ...{ centre: { x: 0, y: 0 }, width: 100, ...more },
    });
  const drawn = standing(saves.at(-1)!, 0, { ...fillingSheet(sheet), isFixed: true, drawing: drawing.id });
  const beside = sheet.references.map(({ file, x, y, width, trim = WHOLE }, index) => {
    const picture = references.get(file)!;
    const height = (width * trim.height * picture.height) / (trim.width * picture.width);
    return standing(picture, index + 1, { width, trim, centre: { x: x + width / 2, y: y + height / 2 } });
  });
  const operations = [
    ...[drawn, ...beside].map((create) => ({ create })),
    { item: SHEET_ID, set: { guides } },
  ];
  await ask(address, `/api/boards/${board}/changes`, 'POST', {
    changes: [{ id: randomUUID(), operations }],
  });
}

/** A study half done: its sheet is as large as it, its picture stands beside it. */
async function loadStudy({ address, commons }: Loading): Promise<void> {
  const { id: board, name, drawing, file, ppi, minutesAgo } = STUDY_OF_LANTERN;
  const reference = (await bringAll(address, [file], commons)).get(file)!;
  const ora = await studyHalfDone(reference.id);
  const savedAt = new Date(Date.now() - 60_000 * minutesAgo).toISOString();
  const form = new FormData();
  form.append('about', JSON.stringify({ name, drawing: { ...drawing, board, savedAt } }));
  form.append('file', new Blob([ora], { type: 'image/openraster' }), `${name}.ora`);
  const response = await fetch(`${address}/api/pictures`, { method: 'POST', body: form });
  const [study] = ((await response.json()) as IntakeAnswer).pictures;
  if (!study) throw new Error('the study was refused');
  const { width, height } = study;
  const setup = { width, height, unit: 'px', ppi, bleed: 0 };
  const need = { width: 4, height: 5, unit: 'in', ppi };
  await ask(address, '/api/boards', 'POST', { id: board, name, sheet: { setup, need } });
  const stacks = keysOnTop([], 2);
  const standing = (picture: Picture, index: number, more: object) =>
    createPlacement({
      ...{ id: randomUUID(), stack: stacks[index]!, picture: picture.id, width },
      ...{ pictureWidth: picture.width, pictureHeight: picture.height },
      ...{ centre: { x: width / 2, y: height / 2 }, ...more },
    });
  const operations = [
    { create: standing(study, 0, { isFixed: true, drawing: drawing.id }) },
    { create: standing(reference, 1, { centre: { x: -width * 0.54, y: height / 2 } }) },
  ];
  await ask(address, `/api/boards/${board}/changes`, 'POST', {
    changes: [{ id: randomUUID(), operations }],
  });
}

/** Until every picture has its levels. */
export async function waitForLevels(address: string): Promise<void> {
  for (let patience = 0; patience < 1_200; patience += 1) {
    const { pictures } = await ask<{ pictures: Picture[] }>(address, '/api/pictures');
    if (pictures.every((picture) => picture.state !== 'arriving')) return;
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
}

/** Where the demo is loaded. */
interface Loading {
  readonly address: string;
  /** Address of the stand-in web. */
  readonly commons: string | undefined;
  /** Where it can be said when things were done; without it everything was done just now. */
  readonly databaseUrl: string | undefined;
}

/** Loads the boards that are not there yet; levels go on being made behind. */
export async function loadDemo(address: string, commons?: string, databaseUrl?: string): Promise<void> {
  const { boards } = await ask<{ boards: Board[] }>(address, '/api/boards');
  const missing = BOARDS.filter(({ id }) => !boards.some((board) => board.id === id && board.revision > 0));
  if (missing.length === 0) return;
  console.log('loading the demo …');
  // Last changed stands first: the board that shows most is loaded last.
  for (const board of missing.toReversed()) await loadBoard({ address, commons, databaseUrl }, board);
  await loadStudy({ address, commons, databaseUrl });
  await loadSheet({ address, commons, databaseUrl }, PAGE_AT_THE_EASEL);
  await bringAll(address, LANDED, commons);
  await loadSorting(address, commons);
  if (commons) await loadPlaces(address, commons);
}

/** The stand-in web is a place to look, where nobody has named places yet. */
async function loadPlaces(address: string, commons: string): Promise<void> {
  const { settings } = await ask<{ settings: Settings }>(address, '/api/settings');
  if (settings.places) return;
  const places = [{ name: 'Tidewrack Commons', address: `${commons}/search?q=%s`, tag: 'tidewrack' }];
  await ask(address, '/api/settings', 'PATCH', { places });
}

/** Subjects, the pictures that stand on no board, and what was said of all of them. */
export async function loadSorting(
  address: string,
  commons?: string,
  files: readonly string[] = [...new Set([...BOARDS.flatMap(filesOf), ...filesInLibrary()])],
): Promise<void> {
  for (const { id, name, parts } of SUBJECTS)
    await ask(address, `/api/subjects/${id}`, 'PATCH', { name, parts });
  for (const { id, title, of, subject } of SHELF)
    await ask(address, `/api/palettes/${id}`, 'POST', {
      ...{ title, subject, viewpoint: null, isPutAway: false, swatches: await swatchesOf(of) },
    });
  for (const [name, colour] of Object.entries(TAG_COLOURS))
    await ask(address, '/api/library/tags', 'PATCH', { name, colour });
  const pictures = await bringAll(address, files, commons);
  for (const [file, { id }] of pictures) {
    const said = saidOf(file, await truthOf(file));
    if (!said) continue;
    const purposes = [...said.purposes, ...(await pinnedOn(file))];
    await ask(address, `/api/pictures/${id}`, 'PATCH', { ...said, purposes });
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url))
  await loadDemo(
    process.argv[2] ?? 'http://127.0.0.1:4860',
    process.argv[3] || undefined,
    process.env.DATABASE_URL,
  );

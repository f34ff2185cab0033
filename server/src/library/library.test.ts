import { keysOnTop } from '@miradero/core/board';
import { createPlacement } from '@miradero/core/items';
import type {
  BoardSnapshot,
  BulkAnswer,
  IntakeAnswer,
  LibraryAnswer,
  LibraryQuery,
  Picture,
  RestoreAnswer,
  Subject,
} from '@miradero/core/schema';
import type { Coverage } from '@miradero/core/subject';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { removePutAway } from '../database/bulk.ts';
import { createConnection, type Knex } from '../database/connection.ts';
import { statementsOf } from '../database/library.ts';
import { findLocalOwner } from '../database/owner.ts';
import { makeManyPictures } from '../test/many-pictures.ts';
import { startTestServer, type TestServer, until } from '../test/server.ts';

let server: TestServer;
let knex: Knex;
beforeAll(async () => {
  server = await startTestServer();
  knex = createConnection(server.databaseUrl, 2);
});
afterAll(async () => {
  await knex.destroy();
  await server.stop();
});

const search = async (query: Record<string, string | number | boolean>): Promise<LibraryAnswer> => {
  const text = new URLSearchParams(
    Object.entries(query).map(([key, value]): [string, string] => [key, String(value)]),
  );
  const response = await server.ask(`/api/library?${text}`);
  expect(response.status, await response.clone().text()).toBe(200);
  return (await response.json()) as LibraryAnswer;
};
const names = async (query: Record<string, string | number | boolean>) =>
  (await search(query)).pictures.map(({ name }) => name);
const patch = (id: string, body: object) => server.send('PATCH', `/api/pictures/${id}`, body);
const pictureAt = async (id: string) =>
  ((await (await server.ask(`/api/pictures/${id}`)).json()) as { picture: Picture }).picture;

/** A sheet of one colour with a lighter and a darker half, so that it is no copy of another. */
async function sheet(name: string, colour: string, side = 300): Promise<string> {
  const bars = Array.from(name, (letter, index) => {
    const at = (letter.charCodeAt(0) * (index + 3)) % 90;
    return `<rect x="${at}" y="${(at * 7) % 80}" width="9" height="14" fill="${index % 2 ? '#fff' : '#000'}"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="${side}" height="${side}"><rect width="100" height="100" fill="${colour}"/>${bars.join('')}</svg>`;
  const form = new FormData();
  form.append('about', JSON.stringify({ name }));
  form.append(
    'file',
    new Blob([new Uint8Array(await sharp(Buffer.from(svg)).png().toBuffer())]),
    `${name}.png`,
  );
  const answer = (await (
    await server.ask('/api/pictures', { method: 'POST', body: form })
  ).json()) as IntakeAnswer;
  return answer.pictures[0]!.id;
}

let red: string;
let blue: string;
let grey: string;
beforeAll(async () => {
  red = await sheet('Rusty fender', '#b03020', 400);
  blue = await sheet('Dawn water', '#2040b0');
  grey = await sheet('Plain reed bank', '#808080');
  for (const id of [red, blue, grey]) await until(async () => (await pictureAt(id)).measures !== null);
  await patch(red, {
    tags: ['rust', 'hull'],
    note: 'Under the bow',
    purposes: [{ purpose: 'surface', isNot: false, region: { x: 0, y: 0, width: 0.5, height: 0.5 } }],
    source: { creator: 'Brina Holt', licence: 'free to use' },
    useMark: 'work',
    pile: 'now',
  });
}, 60_000);

describe('what is said and found again', () => {
  it.each<[string, Record<string, string | number | boolean>]>([
    ['a word of the name', { words: 'fender' }],
    ['the beginning of one', { words: 'fend' }],
    ['a tag', { words: 'hull' }],
    ['a word of the note, in another form', { words: 'bows' }],
    ['the maker', { words: 'holt brina' }],
    ['a misspelt word', { words: 'fendar' }],
    ['a short word, misspelt', { words: 'rsty' }],
    ['a purpose of a region', { purpose: 'surface' }],
    ['a tag as a filter', { tag: 'rust' }],
    ['a licence', { licence: 'free to use' }],
    ['its use', { useMark: 'work' }],
    ['its pile', { pile: 'now' }],
    ['its size', { leastPx: 350 }],
    ['its colour', { colour: 'b03020' }],
  ])('by %s', async (_, query) => {
    expect(await names(query)).toEqual(['Rusty fender']);
  });

  it('says when words were taken for misspelt ones, and when nothing is there', async () => {
    expect(await search({ words: 'fendar' })).toMatchObject({ isForgiven: true, total: 1 });
    expect(await search({ words: 'fender' })).toMatchObject({ isForgiven: false });
    expect(await search({ words: 'zeppelin' })).toMatchObject({ total: 0, pictures: [] });
    // A name that is given now is forgiven from now on; that of somebody else is not.
    const { pictures } = await search({ words: 'fender' });
    await server.send('PATCH', `/api/pictures/${pictures[0]!.id}`, { note: 'Zeppelin' });
    expect(await search({ words: 'zepelin' })).toMatchObject({ total: 1, isForgiven: true });
    await server.send('PATCH', `/api/pictures/${pictures[0]!.id}`, { note: '' });
    expect(await search({ words: 'zepelin' })).toMatchObject({ total: 0 });
    expect((await server.ask('/api/library?sort=beauty')).status).toBe(400);
  });

  it('words that look like the language of the index are words', async () => {
    expect(await search({ words: "fender' & ! <-> :* ( | \\" })).toMatchObject({ total: 1 });
    expect(await search({ words: '&&& !!' })).toMatchObject({ total: 3 });
  });

  it('orders by what was measured, and turns it round', async () => {
    const sorted = await names({ sort: 'lightness' });
    expect(sorted).toHaveLength(3);
    expect(await names({ sort: 'lightness', isReversed: true })).toEqual(sorted.toReversed());
    expect(await names({ sort: 'name' })).toEqual(['Dawn water', 'Plain reed bank', 'Rusty fender']);
    expect((await names({ sort: 'pixels' }))[0]).toBe('Rusty fender');
    // What is grey has no hue: it comes last both ways.
    expect((await names({ sort: 'hue' })).at(-1)).toBe('Plain reed bank');
    expect((await names({ sort: 'hue', isReversed: true })).at(-1)).toBe('Plain reed bank');
  });

  it('what is like a picture begins with it', async () => {
    expect((await names({ like: blue }))[0]).toBe('Dawn water');
    expect(await names({ coloursOf: blue })).toContain('Dawn water');
    expect(await names({ coloursOf: blue })).not.toContain('Rusty fender');
  });

  it('least recently looked at: what nobody saw comes first', async () => {
    expect((await server.send('POST', `/api/pictures/${grey}/looked`, {})).status).toBe(204);
    expect((await names({ sort: 'looked-at' })).at(-1)).toBe('Plain reed bank');
  });
});

describe('many at once', () => {
  const bulk = async (body: object) => {
    const response = await server.send('POST', '/api/library/bulk', body);
    expect(response.status, await response.clone().text()).toBe(200);
    return (await response.json()) as BulkAnswer;
  };

  it('tells all of them, and takes it back to what each was', async () => {
    const was = [await pictureAt(red), await pictureAt(blue)];
    const { before } = await bulk({
      pictures: [red, blue],
      series: 'Study',
      addTags: ['dawn', 'rust'],
      dropTags: ['hull'],
      addPurposes: [{ purpose: 'mood', isNot: true, region: null }],
      source: { creator: 'Pell Arden', licence: null },
      useMark: 'look',
      pile: null,
    });
    const [one, two] = [await pictureAt(red), await pictureAt(blue)];
    expect(one).toMatchObject({ name: 'Study 1', tags: ['rust', 'dawn'], useMark: 'look', pile: null });
    expect(one.source).toMatchObject({ creator: 'Pell Arden', licence: null });
    expect(one.purposes).toHaveLength(2);
    expect(two).toMatchObject({ name: 'Study 2', tags: ['dawn', 'rust'] });
    const restored = await server.send('POST', '/api/library/restore', { before });
    expect(restored.status).toBe(200);
    expect(await restored.json()).toMatchObject({ skipped: 0, after: before });
    const facts = ({ name, tags, purposes, source, useMark, pile }: Picture) => ({
      ...{ name, tags, purposes, source, useMark, pile },
    });
    expect([await pictureAt(red), await pictureAt(blue)].map(facts)).toEqual(was.map(facts));
  });

  it('leaves what was told anew since, property by property, and counts it', async () => {
    const told = await bulk({ pictures: [red, blue], pile: 'now', addTags: ['kept back'] });
    await server.send('PATCH', `/api/pictures/${blue}`, { pile: 'no' });
    const answer = (await (
      await server.send('POST', '/api/library/restore', { before: told.before, after: told.after })
    ).json()) as RestoreAnswer;
    expect(answer.skipped).toBe(1);
    expect((await pictureAt(blue)).pile).toBe('no');
    expect((await pictureAt(red)).pile).toBe(told.before[0]!.pile);
    for (const id of [red, blue]) expect((await pictureAt(id)).tags).not.toContain('kept back');
    // And what was done then is taken back in turn.
    await server.send('POST', '/api/library/restore', { before: answer.before, after: answer.after });
    expect((await pictureAt(red)).pile).toBe('now');
    expect((await pictureAt(blue)).tags).toContain('kept back');
    await server.send('POST', '/api/library/restore', { before: told.before });
  });

  it('refuses what says nothing, and passes over what is not here', async () => {
    expect((await server.send('POST', '/api/library/bulk', { pictures: [red] })).status).toBe(400);
    expect((await server.send('POST', '/api/library/bulk', { pictures: ['x'], pile: 'now' })).status).toBe(
      400,
    );
    const { before } = await bulk({ pictures: ['00000000-0000-4000-8000-000000000009', grey], pile: 'no' });
    expect(before).toEqual([{ picture: grey, pile: null }]);
    await server.send('POST', '/api/library/restore', { before });
  });

  it('says on which boards pictures stand before they are put away, and removes none of those', async () => {
    const board = '7a000001-0000-4000-8000-000000000001';
    await server.send('POST', '/api/boards', { id: board, name: 'Hull' });
    const create = createPlacement({
      ...{ id: '7a000001-0000-4000-8000-000000000002', stack: keysOnTop([], 1)[0]!, picture: red },
      ...{ pictureWidth: 400, pictureHeight: 400, centre: { x: 0, y: 0 }, width: 100 },
    });
    const changes = [{ id: '7a000001-0000-4000-8000-000000000003', operations: [{ create }] }];
    await server.send('POST', `/api/boards/${board}/changes`, { changes });
    const standing = await (
      await server.send('POST', '/api/library/standing', { pictures: [red, grey] })
    ).json();
    expect(standing).toEqual({ boards: [{ id: board, name: 'Hull', count: 1 }] });
    expect((await search({ onNoBoard: true })).pictures.map(({ id }) => id)).not.toContain(red);
    expect((await search({ board })).pictures.map(({ id }) => id)).toEqual([red]);

    const gone = await sheet('To be gone', '#30a050');
    await until(async () => (await pictureAt(gone)).measures !== null);
    await bulk({ pictures: [red, gone], isPutAway: true });
    expect((await search({})).pictures.map(({ id }) => id)).not.toContain(gone);
    expect((await search({ isPutAway: true })).total).toBe(2);
    // Within the time of grace nothing goes.
    expect(await removePutAway(knex, '1 hour')).toBe(0);
    expect(await removePutAway(knex, '0 seconds')).toBe(1);
    expect((await server.ask(`/api/pictures/${gone}`)).status).toBe(404);
    expect((await pictureAt(red)).isPutAway).toBe(true);
    await bulk({ pictures: [red], isPutAway: false });
    expect(((await (await server.ask(`/api/boards/${board}`)).json()) as BoardSnapshot).items).toHaveLength(
      1,
    );
    expect(await (await server.ask(`/api/pictures/${red}/story`)).json()).toMatchObject({
      boards: [{ id: board, name: 'Hull' }],
    });
  });
});

describe('subjects', () => {
  const ferry = '7b000001-0000-4000-8000-000000000001';
  const hull = '7b000001-0000-4000-8000-000000000002';
  const plates = '7b000001-0000-4000-8000-000000000003';
  const mast = '7b000001-0000-4000-8000-000000000004';

  it('are made, given pictures, and say what nobody has found yet', async () => {
    const parts = [
      { id: hull, name: 'hull', parts: [{ id: plates, name: 'plates' }] },
      { id: mast, name: 'lamp mast', parts: [] },
    ];
    expect((await server.send('PATCH', `/api/subjects/${ferry}`, { parts })).status).toBe(404);
    const made = await server.send('PATCH', `/api/subjects/${ferry}`, { name: 'The ferry', parts });
    expect(made.status, await made.clone().text()).toBe(200);
    await patch(red, {
      parts: [plates],
      views: {
        [ferry]: {
          azimuthDeg: 40,
          elevationDeg: 5,
          lightAzimuthDeg: -80,
          lightElevationDeg: 20,
          distance: 'near',
        },
      },
    });
    const { subjects } = (await (await server.ask('/api/subjects')).json()) as { subjects: Subject[] };
    expect(subjects).toMatchObject([{ id: ferry, name: 'The ferry', pictures: 1 }]);
    expect((await search({ subject: ferry })).total).toBe(1);
    expect((await search({ part: hull })).total).toBe(0);
    const { coverage } = (await (await server.ask(`/api/subjects/${ferry}/coverage`)).json()) as {
      coverage: Coverage;
    };
    expect(coverage.parts.map(({ name, pictures }) => [name, pictures.length])).toEqual([
      ['hull', 1],
      ['plates', 1],
      ['lamp mast', 0],
    ]);
    expect(coverage.gaps[0]!.kind).toBe('part');
    expect(coverage.lights['from the left']).toBe(1);
    const bad = {
      [ferry]: { azimuthDeg: 400, elevationDeg: 5, lightAzimuthDeg: 0, lightElevationDeg: 0, distance: null },
    };
    expect((await patch(red, { views: bad })).status).toBe(400);
  });
});

describe('a hundred thousand pictures', () => {
  beforeAll(async () => {
    await makeManyPictures(knex, await findLocalOwner(knex), 100_000, 2);
  }, 240_000);

  const planOf = async (query: LibraryQuery, meant?: string[][]) => {
    const owner = await findLocalOwner(knex);
    const { page } = await statementsOf(knex, owner, query, { meant, isFew: query.words !== undefined });
    const { sql, bindings } = page.toSQL().toNative();
    const { rows } = await knex.raw(
      `explain ${knex.raw(sql.replace(/\$\d+/g, '?'), bindings as never[]).toQuery()}`,
    );
    return (rows as { 'QUERY PLAN': string }[]).map((row) => row['QUERY PLAN']).join('\n');
  };

  it.each<[string, LibraryQuery, string, string[][]?]>([
    ['words', { words: 'lantern bent' }, 'pictures_by_words'],
    ['misspelt words', { words: 'lantren bnet' }, 'pictures_by_words', [['lantern'], ['bent', 'belt']]],
    ['one word that many have', { words: 'lantern' }, 'pictures_by_words'],
    ['a colour', { colour: '804020' }, 'picture_colours_near'],
    ['a likeness', { like: '00000000-0000-4000-8000-000000000001' }, 'pictures_near_look'],
    ['the order of lightness', { sort: 'lightness' }, 'pictures_by_lightness'],
    ['the order of names', { sort: 'name' }, 'pictures_by_name'],
    ['the newest', {}, 'pictures_by_added'],
    ['a part', { part: '00000000-0000-4000-8000-000000000001' }, 'pictures_by_parts'],
  ])('%s are found by an index', async (_, query, index, meant) => {
    expect(await planOf(query, meant)).toContain(index);
  });

  it('answers with what is there, however many there are', async () => {
    const found = await search({ words: 'lantern', limit: 50 });
    expect(found.total).toBeGreaterThan(3_000);
    expect(found.pictures).toHaveLength(50);
    expect(found.pictures.every(({ name }) => /lantern/i.test(name))).toBe(true);
    const next = await search({ words: 'lantern', limit: 50, offset: 50 });
    const ids = new Set([...found.pictures, ...next.pictures].map(({ id }) => id));
    expect(ids.size).toBe(100);
    // Short and long words, slips of every kind: all that have the word are found, and no other.
    for (const [typed, word] of [
      ['lantren', 'lantern'],
      ['weel', 'wheel'],
      ['rpoe', 'rope'],
      ['kantern', 'lantern'],
    ] as const) {
      const forgiven = await search({ words: typed, limit: 50 });
      expect(forgiven.isForgiven).toBe(true);
      expect(forgiven.total).toBe((await search({ words: word })).total);
      expect(forgiven.pictures.every(({ name }) => name.toLowerCase().includes(word))).toBe(true);
    }
    const two = await search({ words: 'bnet wheel' });
    expect([two.isForgiven, two.total]).toEqual([true, (await search({ words: 'bent wheel' })).total]);
    expect(await search({ words: "o'zzzzq | & !" })).toMatchObject({ total: 0, isForgiven: true });
    expect((await search({ colour: '804020' })).total).toBeGreaterThan(50);
  });
});

it('what is gathered for a gap is added to what a picture serves, by however many at once', async () => {
  const id = await sheet('Gap', '#345');
  const [own, first, second, subject, other] = Array.from({ length: 5 }, () => crypto.randomUUID());
  const view = { ...{ azimuthDeg: 30, elevationDeg: 0, lightAzimuthDeg: null }, lightElevationDeg: null };
  const [said, filled] = [
    { ...view, distance: 'near' },
    { ...view, distance: 'far' },
  ];
  await patch(id, { parts: [own], views: { [subject!]: said } });
  const answers = await Promise.all([
    patch(id, { addParts: [first], fillViews: { [subject!]: filled } }),
    patch(id, { addParts: [second], fillViews: { [other!]: filled } }),
    patch(id, { addParts: [own] }),
  ]);
  expect(answers.map(({ status }) => status)).toEqual([200, 200, 200]);
  const known = await pictureAt(id);
  expect(known.parts.toSorted()).toEqual([own, first, second].toSorted());
  expect(known.views).toEqual({ [subject!]: said, [other!]: filled });
});

describe('pictures of a board', () => {
  it('are told without measures, which are asked for of one', async () => {
    const id = crypto.randomUUID();
    await server.send('POST', '/api/boards', { id, name: 'Fenders' });
    const create = createPlacement({
      ...{ id: 'p', stack: 'a0', picture: red, pictureWidth: 400, pictureHeight: 300 },
      ...{ centre: { x: 0, y: 0 }, width: 300 },
    });
    await server.send('POST', `/api/boards/${id}/changes`, {
      changes: [{ id: crypto.randomUUID(), operations: [{ create }] }],
    });
    const asked = async (query: string) =>
      ((await (await server.ask(`/api/pictures?${query}`)).json()) as { pictures: Picture[] }).pictures;
    const [told] = await asked(`board=${id}`);
    expect(told).toMatchObject({ id: red, name: 'Rusty fender' });
    expect(told).not.toHaveProperty('measures');
    expect((await asked(`ids=${red}`))[0]!.measures!.palette.length).toBeGreaterThan(0);
  });
});

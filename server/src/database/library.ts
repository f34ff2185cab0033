import { hexToOklab, type Swatch } from '@miradero/core/colour';
import type { LibraryQuery, LibrarySort, Picture, Tag } from '@miradero/core/schema';
import { wordsMeant } from '@miradero/core/text';
import type { Knex } from './connection.ts';
import { findPicturesById } from './pictures.ts';

/** How an order is written; `isDown` is the direction that one means by its name. What is not known comes last. */
const ORDERS: Readonly<Record<LibrarySort, { readonly by: string; readonly isDown: boolean }>> = {
  added: { by: 'p.added_at', isDown: true },
  taken: { by: 'p.taken_at', isDown: true },
  name: { by: 'lower(p.name)', isDown: false },
  pixels: { by: '(p.width::bigint * p.height)', isDown: true },
  lightness: { by: 'p.lightness', isDown: false },
  hue: { by: 'p.hue', isDown: false },
  sharpness: { by: 'p.sharpness', isDown: true },
  complexity: { by: 'p.complexity', isDown: false },
  'looked-at': { by: 'p.looked_at', isDown: false },
};
/** Orders whose column is never empty need no word about what is missing; then an index serves both ways. */
const ALWAYS_KNOWN: readonly LibrarySort[] = ['added', 'name', 'pixels'];

function orderOf(sort: LibrarySort, isReversed: boolean): string {
  if (sort === 'added') return isReversed ? 'p.added_at asc, p.id desc' : 'p.added_at desc, p.id asc';
  const { by, isDown } = ORDERS[sort];
  const direction = isDown === isReversed ? 'asc' : 'desc';
  // What nobody looked at yet is what was longest not looked at.
  const missing = sort === 'looked-at' && direction === 'asc' ? ' nulls first' : ' nulls last';
  return `${by} ${direction}${ALWAYS_KNOWN.includes(sort) ? '' : missing}, p.id ${direction}`;
}

/** Colours nearer than this, OKLab, count as one that was asked for. */
const COLOUR_REACH = 0.11;
/** Swatches looked at, nearest first: more of one colour than anybody leafs through. */
const NEAREST_SWATCHES = 3_000;
/** Pictures considered as being like another. */
const NEAREST_LOOKS = 600;
/** A shared colour counts from such a share of the picture whose colours are asked for. */
const LEAST_SHARE = 0.08;

/** A search in two parts: where candidates come from, and what they must be. `rank` orders them when nothing else does. */
interface Search {
  readonly withs: string[];
  readonly joins: string[];
  readonly wheres: string[];
  readonly values: Record<string, unknown>;
  rank: string | undefined;
}

const words = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];

/** Words of a search: each stands for itself, or for the words of which it may be a misspelling. */
type Meant = readonly (readonly string[])[];

/** Words as they begin, or, where they were `meant` otherwise, whole. */
function askWords(search: Search, text: string, meant: Meant | undefined): void {
  const asked = words(text);
  if (asked.length === 0) return;
  search.values.words = asked
    .map((word, index) => meant?.[index]?.map((one) => `'${one}'`).join(' | ') ?? `${word}:*`)
    .map((either) => `(${either})`)
    .join(' & ');
  search.wheres.push("to_tsvector('english', p.words) @@ to_tsquery('english', :words)");
}

/** Few begin a word with another letter; of those who do, most swap the first two or leave one out. */
async function wordsNear(knex: Knex, owner: string, typed: string): Promise<string[]> {
  const known = async (beginnings: string[]) => {
    const { rows } = await knex.raw(
      `select word from picture_words, unnest(cast(? as text[])) beginning
       where owner = ? and word >= beginning collate "C" and word < (beginning || ?) collate "C"`,
      [beginnings, owner, LAST],
    );
    return wordsMeant(typed, (rows as { word: string }[]).map(({ word }) => word).filter(isPlain));
  };
  const [first = '', second = ''] = typed;
  const near = await known([...new Set([first, second])].filter(Boolean));
  return near.length > 0 ? near : known(['']);
}
/** After every letter, in the order of code points. */
const LAST = '\u{10ffff}';
const isPlain = (word: string): boolean => /^[\p{L}]+$/u.test(word);

/** What may have been meant by words that are found nowhere together; undefined when one of them is like no word there is. */
async function meantBy(knex: Knex, owner: string, text: string): Promise<Meant | undefined> {
  const meant: string[][] = [];
  for (const typed of words(text)) {
    const near = /\p{N}/u.test(typed) ? [typed] : await wordsNear(knex, owner, typed);
    if (near.length === 0) return undefined;
    meant.push(near);
  }
  return meant;
}

/** Pictures with a colour near one of these; the more of it and the nearer, the earlier. */
function askColours(search: Search, swatches: readonly Swatch[]): void {
  if (swatches.length === 0) {
    search.wheres.push('false');
    return;
  }
  const parts = swatches.map(({ l, a, b, share }, index) => {
    Object.assign(search.values, { [`colour${index}`]: `(${l}, ${a}, ${b})`, [`share${index}`]: share });
    return `(select picture, ${index} as swatch,
        max(least(c.share, :share${index}) * (1 - away / ${COLOUR_REACH})) as weight
      from (select picture, share, colour <-> cast(:colour${index} as cube) as away from picture_colours
            order by colour <-> cast(:colour${index} as cube) limit ${NEAREST_SWATCHES}) c
      where away < ${COLOUR_REACH} group by picture)`;
  });
  search.withs.push(`coloured as (
    select picture, sum(weight) as weight from (${parts.join(' union all ')}) every_swatch
    group by picture having count(*) >= ${Math.ceil(swatches.length / 2)})`);
  search.joins.push('join coloured on coloured.picture = p.id');
  search.rank = 'coloured.weight';
}

/** Pictures that look like one: colours in the same quarters, or the same forms; copies of it first. */
function askLike(search: Search, id: string): void {
  search.values.like = id;
  search.withs.push(
    'model as (select id, look, likeness from pictures where id = :like and owner = :owner)',
    `alike as (
      select id as picture from (
        select id from pictures where owner = :owner and look is not null
        order by look <-> (select look from model) limit ${NEAREST_LOOKS}) nearest
      union select case when picture = :like then other else picture end from picture_copies
        where picture = :like or other = :like
      union select id from model)`,
  );
  search.joins.push('join alike on alike.picture = p.id', 'cross join model');
  search.rank =
    '(case when p.id = :like then 10 else 0 end) - coalesce(p.look <-> model.look, 9) - coalesce(bit_count(p.likeness # model.likeness), 64)::float8 / 64';
}

/** What pictures must be, besides words, colours and likeness. */
function askFacts(search: Search, query: LibraryQuery): void {
  const { wheres, values } = search;
  const must = (sql: string, name?: string, value?: unknown) => {
    wheres.push(sql);
    if (name !== undefined) values[name] = value;
  };
  // Versions of drawings are seen with their drawing.
  must('not p.is_version');
  must(query.isPutAway ? 'p.is_put_away' : 'not p.is_put_away');
  if (query.purpose)
    must('p.purposes @> cast(:purpose as jsonb)', 'purpose', JSON.stringify([{ purpose: query.purpose }]));
  if (query.tag) must('p.tags @> cast(array[:tag] as text[])', 'tag', query.tag);
  if (query.part) must('p.parts @> cast(array[:part] as uuid[])', 'part', query.part);
  if (query.subject)
    must(
      `p.parts && (select array_agg(id) from (
         select cast(:subject as uuid) as id
         union select (part ->> 'id')::uuid from subjects, jsonb_array_elements(parts) part where id = :subject
         union select (inner_part ->> 'id')::uuid from subjects, jsonb_array_elements(parts) part,
           jsonb_array_elements(part -> 'parts') inner_part where id = :subject) ids)`,
      'subject',
      query.subject,
    );
  if (query.kind) must('p.kind = :kind', 'kind', query.kind);
  if (query.licence) must("p.source ->> 'licence' = :licence", 'licence', query.licence);
  if (query.creator) must("p.source ->> 'creator' = :creator", 'creator', query.creator);
  if (query.useMark === 'unsaid') must('p.use_mark is null');
  else if (query.useMark) must('p.use_mark = :useMark', 'useMark', query.useMark);
  if (query.pile === 'none') must('p.pile is null');
  else if (query.pile) must('p.pile = :pile', 'pile', query.pile);
  if (query.leastPx) must('greatest(p.width, p.height) >= :leastPx', 'leastPx', query.leastPx);
  if (query.mostPx) must('greatest(p.width, p.height) <= :mostPx', 'mostPx', query.mostPx);
  if (query.from) must('p.added_at >= cast(:from as date)', 'from', query.from);
  if (query.to) must("p.added_at < cast(:to as date) + interval '1 day'", 'to', query.to);
  if (query.darkest !== undefined) must('p.lightness >= :darkest', 'darkest', query.darkest);
  if (query.lightest !== undefined) must('p.lightness <= :lightest', 'lightest', query.lightest);
  if (query.toScale) must('p.is_to_scale');
  if (query.board)
    must(
      'exists (select from board_items i where i.picture = p.id and i.board = :board and not i.removed)',
      'board',
      query.board,
    );
  if (query.onNoBoard)
    must('not exists (select from board_items i where i.picture = p.id and not i.removed)');
  if (query.noSource)
    must("p.source ->> 'page' is null and p.source ->> 'address' is null and p.source ->> 'creator' is null");
  if (query.hasCopies)
    must(`p.id in (select picture from picture_copies where not is_settled
                   union select other from picture_copies where not is_settled)`);
}

async function coloursOf(knex: Knex, owner: string, id: string): Promise<Swatch[]> {
  const row = await knex('pictures').where({ owner, id }).first('measures');
  const palette = (row?.measures?.palette ?? []) as Swatch[];
  return palette.filter(({ share }) => share >= LEAST_SHARE).slice(0, 4);
}

async function searchOf(
  knex: Knex,
  owner: string,
  query: LibraryQuery,
  meant: Meant | undefined,
): Promise<Search> {
  const search: Search = {
    withs: [],
    joins: [],
    wheres: ['p.owner = :owner'],
    values: { owner },
    rank: undefined,
  };
  if (query.words) askWords(search, query.words, meant);
  if (query.coloursOf) askColours(search, await coloursOf(knex, owner, query.coloursOf));
  else if (query.colour) askColours(search, [{ ...hexToOklab(`#${query.colour}`), share: 1 }]);
  if (query.like) askLike(search, query.like);
  askFacts(search, query);
  return search;
}

const PAGE = 200;

/**
 * The statements of a search; the bench shows how they are carried out. What is ranked has to be found whole anyway, and
 * counts itself on its page; for the rest an index counts faster.
 *
 * @param isFew - they are found by what they are and then put in order, instead of being met while leafing in that order
 */
export async function statementsOf(
  knex: Knex,
  owner: string,
  query: LibraryQuery,
  { meant, isFew = false }: { meant?: Meant | undefined; isFew?: boolean } = {},
): Promise<{ count: Knex.Raw | undefined; page: Knex.Raw }> {
  const { withs, joins, wheres, values, rank } = await searchOf(knex, owner, query, meant);
  const head = withs.length > 0 ? `with ${withs.join(', ')} ` : '';
  const body = `from pictures p ${joins.join(' ')} where ${wheres.join(' and ')}`;
  const order =
    query.sort || !rank ? orderOf(query.sort ?? 'added', query.isReversed ?? false) : `${rank} desc, p.id`;
  const { offset = 0, limit = PAGE } = query;
  // The inner `offset` keeps the order from choosing how they are found.
  const from = isFew && !rank ? `from (select p.* ${body} offset 0) p` : body;
  const total = rank ? ', count(*) over ()::int as total' : '';
  return {
    count: rank ? undefined : knex.raw(`${head}select count(*)::int as total ${body}`, values),
    page: knex.raw(`${head}select p.id${total} ${from} order by ${order} limit :limit offset :offset`, {
      ...values,
      limit,
      offset,
    }),
  };
}

/** So many that were found by their words are put in order faster than they would be met in it. */
const FEW = 10_000;

async function ask(knex: Knex, owner: string, query: LibraryQuery, meant?: Meant) {
  const { count } = await statementsOf(knex, owner, query, { meant });
  const counted = (await count)?.rows as { total: number }[] | undefined;
  if (counted?.[0]?.total === 0) return { total: 0, ids: [] };
  const isFew = query.words !== undefined && (counted?.[0]?.total ?? 0) < FEW;
  const { page } = await statementsOf(knex, owner, query, { meant, isFew });
  const { rows } = (await page) as { rows: { id: string; total: number }[] };
  // Beyond the last page a ranked search counts nothing: that is where it ends.
  const total = counted?.[0]?.total ?? rows[0]?.total ?? query.offset ?? 0;
  return { total, ids: rows.map(({ id }) => id) };
}

/** What is found by words that are taken for misspelt ones. */
async function askForgiving(knex: Knex, owner: string, query: LibraryQuery) {
  const meant = await meantBy(knex, owner, query.words ?? '');
  return meant ? ask(knex, owner, query, meant) : { total: 0, ids: [] };
}

/** Ids of a page of what a search finds, before their rows are read. */
export async function findInLibrary(
  knex: Knex,
  owner: string,
  query: LibraryQuery,
): Promise<{ total: number; ids: string[]; isForgiven: boolean }> {
  const exact = await ask(knex, owner, query);
  const isForgiven = exact.total === 0 && words(query.words ?? '').length > 0;
  return { ...(isForgiven ? await askForgiving(knex, owner, query) : exact), isForgiven };
}

/**
 * A page of what a search finds, and how many there are. Words that are found nowhere are looked for once more as
 * misspelt ones.
 */
export async function searchLibrary(
  knex: Knex,
  owner: string,
  query: LibraryQuery,
): Promise<{ total: number; pictures: Picture[]; isForgiven: boolean }> {
  const found = await findInLibrary(knex, owner, query);
  const { isForgiven } = found;
  const byId = new Map(
    (await findPicturesById(knex, owner, found.ids)).map((picture) => [picture.id, picture]),
  );
  return { total: found.total, pictures: found.ids.flatMap((id) => byId.get(id) ?? []), isForgiven };
}

/** Tags in use, and those with a colour, the most used first. */
export async function listTags(knex: Knex, owner: string): Promise<Tag[]> {
  const { rows } = await knex.raw(
    `select coalesce(u.name, c.name) as name, c.colour, coalesce(u.count, 0)::int as count
     from (select tag as name, count(*) as count from pictures, unnest(tags) tag
           where owner = :owner and not is_put_away group by tag) u
     full join (select name, colour from tag_colours where owner = :owner) c on c.name = u.name
     order by count desc, name`,
    { owner },
  );
  return rows;
}

/** Parts that pictures show, and how many show each. */
export async function listShownParts(knex: Knex, owner: string): Promise<{ id: string; count: number }[]> {
  const { rows } = await knex.raw(
    `select part as id, count(*)::int as count from pictures, unnest(parts) part
     where owner = ? and not is_put_away group by part`,
    [owner],
  );
  return rows;
}

/** Why pictures are here, as a whole or in a part of them, and how many for each reason. */
export async function listPurposes(
  knex: Knex,
  owner: string,
): Promise<{ name: string; isNot: boolean; count: number }[]> {
  const { rows } = await knex.raw(
    `select one->>'purpose' as name, (one->>'isNot')::boolean as "isNot", count(distinct id)::int as count
     from pictures, jsonb_array_elements(purposes) one
     where owner = ? and not is_put_away group by 1, 2 order by count desc, name`,
    [owner],
  );
  return rows;
}

/** Gives a tag a colour, or takes it away. */
export async function colourTag(
  knex: Knex,
  owner: string,
  name: string,
  colour: string | null,
): Promise<void> {
  if (colour === null) await knex('tag_colours').where({ owner, name }).delete();
  else await knex('tag_colours').insert({ owner, name, colour }).onConflict(['owner', 'name']).merge();
}

/** Licences or creators that pictures name, the most frequent first. */
export async function listOfSource(
  knex: Knex,
  owner: string,
  key: 'licence' | 'creator',
): Promise<{ name: string; count: number }[]> {
  const { rows } = await knex.raw(
    `select source ->> '${key}' as name, count(*)::int as count from pictures
     where owner = ? and source ->> '${key}' is not null and not is_put_away group by 1 order by 2 desc, 1 limit 60`,
    [owner],
  );
  return rows;
}

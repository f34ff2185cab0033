import type { Measures } from '../../picture/index.ts';
import { PURPOSES, type PurposeName } from '../../schema/index.ts';

export const SHELVES_BY = [
  ...(['purpose', 'tag', 'part', 'source', 'date'] as const),
  ...(['lightness', 'hue', 'likeness'] as const),
] as const;
export type ShelvesBy = (typeof SHELVES_BY)[number];

/** What is known of a picture that stands on a board, as far as shelves ask for it. */
export interface ShelvedFacts {
  readonly item: string;
  readonly name: string;
  readonly purposes: readonly PurposeName[];
  readonly tags: readonly string[];
  /** Names of the parts of subjects that it serves. */
  readonly parts: readonly string[];
  /** Whose page it was found on; null where nobody knows. */
  readonly site: string | null;
  /** ISO 8601; null where nobody knows. */
  readonly date: string | null;
  /** Null where they were not taken yet. */
  readonly measures: Pick<Measures, 'lightness' | 'hue' | 'look'> | null;
}

export interface ShelfGroup {
  readonly heading: string;
  readonly items: readonly string[];
}

/** Steps of OKLab lightness, the upper end of each. */
const LIGHTNESS = [
  ['Dark', 0.3],
  ['Rather dark', 0.47],
  ['Middle', 0.6],
  ['Rather light', 0.75],
  ['Light', 1],
] as const;
/** Names of hues, OKLab, the upper end of each in degrees. */
const HUES = [
  ['Red', 45],
  ['Orange', 80],
  ['Yellow', 115],
  ['Green', 170],
  ['Blue-green', 225],
  ['Blue', 280],
  ['Violet', 315],
  ['Purple', 360],
] as const;
const NO_HUE = 'Grey';
/** Below this, red begins: purple goes on through 0. */
const RED_FROM_DEG = 8;

const hueName = (hueDeg: number): string =>
  hueDeg < RED_FROM_DEG ? 'Purple' : HUES.find(([, end]) => hueDeg < end)![0];
const lightnessName = (lightness: number): string =>
  (LIGHTNESS.find(([, end]) => lightness <= end) ?? LIGHTNESS.at(-1)!)[0];

/** Mean distance of the quarters of two pictures, OKLab; 0 for the same, about 0.3 for very different ones. */
function lookDistance(one: readonly number[], other: readonly number[]): number {
  let sum = 0;
  for (let at = 0; at < one.length; at += 3)
    sum += Math.hypot(one[at]! - other[at]!, one[at + 1]! - other[at + 1]!, one[at + 2]! - other[at + 2]!);
  return (sum * 3) / one.length;
}

/** Pictures that look less differently than this stand together. */
const ALIKE = 0.075;
const REST = {
  purpose: 'No purpose said',
  tag: 'Without a tag',
  part: 'No part said',
  source: 'Source not known',
  date: 'Date not known',
  lightness: 'Not measured yet',
  hue: 'Not measured yet',
  likeness: 'Unlike the others',
} as const;

/** The shelf of one, by whatever is said first of it, and a key that orders shelves; undefined for the rest. */
type Told = { readonly heading: string; readonly order: number } | undefined;

const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

/** How often each is said: what most share comes first. */
const countsOf = (all: readonly (readonly string[])[]): Map<string, number> => {
  const counts = new Map<string, number>();
  for (const said of all) for (const one of said) counts.set(one, (counts.get(one) ?? 0) + 1);
  return counts;
};

/** Of what is said of one the shelf that most share; equal ones by the alphabet. */
function mostShared(said: readonly string[], counts: ReadonlyMap<string, number>): Told {
  const [first] = [...said].sort((a, b) => counts.get(b)! - counts.get(a)! || (a < b ? -1 : 1));
  return first === undefined ? undefined : { heading: first, order: -counts.get(first)! };
}

function tellers(
  facts: readonly ShelvedFacts[],
): Record<Exclude<ShelvesBy, 'likeness'>, (one: ShelvedFacts) => Told> {
  const tags = countsOf(facts.map((one) => one.tags));
  const parts = countsOf(facts.map((one) => one.parts));
  const sites = countsOf(facts.map((one) => (one.site === null ? [] : [one.site])));
  return {
    purpose: ({ purposes: [first] }) => first && { heading: capital(first), order: PURPOSES.indexOf(first) },
    tag: (one) => mostShared(one.tags, tags),
    part: (one) => mostShared(one.parts, parts),
    source: ({ site }) => mostShared(site === null ? [] : [site], sites),
    date: ({ date }) => {
      if (date === null) return undefined;
      const day = date.slice(0, 10);
      // The newest first.
      return { heading: day, order: -Number(day.replaceAll('-', '')) };
    },
    lightness: ({ measures }) =>
      measures
        ? {
            heading: lightnessName(measures.lightness),
            order: LIGHTNESS.findIndex(([name]) => name === lightnessName(measures.lightness)),
          }
        : undefined,
    hue({ measures }) {
      if (!measures) return undefined;
      const name = measures.hue === null ? NO_HUE : hueName(measures.hue);
      const order = HUES.findIndex(([hue]) => hue === name);
      return { heading: name, order: order < 0 ? HUES.length : order };
    },
  };
}

/** Groups that look alike: each picture joins the first whose leader it resembles. */
function alikeGroups(facts: readonly ShelvedFacts[]): ShelfGroup[] {
  const groups: { leader: ShelvedFacts; items: string[] }[] = [];
  const rest: string[] = [];
  for (const one of facts) {
    const { measures } = one;
    if (!measures) {
      rest.push(one.item);
      continue;
    }
    const near = groups
      .map((group) => ({ group, away: lookDistance(group.leader.measures!.look, measures.look) }))
      .sort((a, b) => a.away - b.away)[0];
    if (near && near.away < ALIKE) near.group.items.push(one.item);
    else groups.push({ leader: one, items: [one.item] });
  }
  const alone = groups.filter(({ items }) => items.length === 1).flatMap(({ items }) => items);
  return [
    ...groups
      .filter(({ items }) => items.length > 1)
      .sort((a, b) => b.items.length - a.items.length)
      .map(({ leader, items }) => ({ heading: `Like “${leader.name}”`, items })),
    ...[{ heading: REST.likeness, items: [...alone, ...rest] }].filter(({ items }) => items.length > 0),
  ];
}

/** Within a shelf: what is measured by its measure, everything else by name. */
function sorterFor(by: ShelvesBy): (a: ShelvedFacts, b: ShelvedFacts) => number {
  const byName = (a: ShelvedFacts, b: ShelvedFacts) =>
    a.name.localeCompare(b.name, 'en', { numeric: true }) || (a.item < b.item ? -1 : 1);
  if (by === 'lightness' || by === 'hue')
    return (a, b) => (a.measures?.lightness ?? 0) - (b.measures?.lightness ?? 0) || byName(a, b);
  return by === 'date' ? (a, b) => (b.date ?? '').localeCompare(a.date ?? '') || byName(a, b) : byName;
}

/** Tells which shelf each picture stands on; shelves in their order, what has none last. */
export function shelfGroups(facts: readonly ShelvedFacts[], by: ShelvesBy): ShelfGroup[] {
  const sorted = [...facts].sort(sorterFor(by));
  if (by === 'likeness') return alikeGroups(sorted);
  const tell = tellers(facts)[by];
  const groups = new Map<string, { order: number; items: string[] }>();
  const rest: string[] = [];
  for (const one of sorted) {
    const told = tell(one);
    if (!told) rest.push(one.item);
    else {
      const group = groups.get(told.heading) ?? { order: told.order, items: [] };
      group.items.push(one.item);
      groups.set(told.heading, group);
    }
  }
  const shelves = [...groups].sort(
    ([a, { order: one }], [b, { order: other }]) => one - other || a.localeCompare(b, 'en'),
  );
  return [
    ...shelves.map(([heading, { items }]) => ({ heading, items })),
    ...(rest.length > 0 ? [{ heading: REST[by], items: rest }] : []),
  ];
}

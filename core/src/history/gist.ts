import type { Change, Counts, Gist, Item, ItemKind } from '../schema/index.ts';

type Did = keyof Counts;
const NONE: Counts = { added: 0, removed: 0, altered: 0 };

const withOne = (gist: Gist, kind: ItemKind, did: Did): Gist => {
  const counts = gist[kind] ?? NONE;
  return { ...gist, [kind]: { ...counts, [did]: counts[did] + 1 } };
};

/** What a set does to an item; one that is brought back came anew. */
const didOf = (set: Readonly<Record<string, unknown>>): Did =>
  set.removed === true ? 'removed' : set.removed === false ? 'added' : 'altered';

/** What a change does to each item that it touches: what weighs most of all that it does to it. */
export function deedsOf({ operations }: Change): ReadonlyMap<string, { did: Did; created?: Item }> {
  const deeds = new Map<string, { did: Did; created?: Item }>();
  for (const operation of operations) {
    if ('create' in operation) {
      const { create } = operation;
      deeds.set(create.id, { did: create.removed ? 'removed' : 'added', created: create });
      continue;
    }
    const did = didOf(operation.set);
    const before = deeds.get(operation.item);
    if (!before || did !== 'altered') deeds.set(operation.item, { ...before, did });
  }
  return deeds;
}

/** What a change does, by kind of item. @param kindOf - kind of an item that it does not create */
export function gistOf(change: Change, kindOf: (item: string) => ItemKind | undefined): Gist {
  let gist: Gist = {};
  for (const [id, { did, created }] of deedsOf(change)) {
    const kind = created?.kind ?? kindOf(id);
    if (kind) gist = withOne(gist, kind, did);
  }
  return gist;
}

export function addGists(one: Gist, other: Gist): Gist {
  const sum: Partial<Record<ItemKind, Counts>> = { ...one };
  for (const [kind, counts] of Object.entries(other) as [ItemKind, Counts][]) {
    const before = sum[kind] ?? NONE;
    sum[kind] = {
      added: before.added + counts.added,
      removed: before.removed + counts.removed,
      altered: before.altered + counts.altered,
    };
  }
  return sum;
}

/** What each kind is called where it is counted. */
const CALLED: Readonly<Record<ItemKind, readonly [one: string, many: string]>> = {
  placement: ['picture', 'pictures'],
  note: ['remark', 'remarks'],
  link: ['link card', 'link cards'],
  cluster: ['cluster', 'clusters'],
  view: ['kept view', 'kept views'],
  bay: ['bay', 'bays'],
  'working-set': ['working set', 'working sets'],
  palette: ['palette', 'palettes'],
  'lit-ball': ['lit ball', 'lit balls'],
  mark: ['mark', 'marks'],
  'picture-mark': ['mark on a picture', 'marks on pictures'],
  sheet: ['sheet', 'sheets'],
};

const counted = (gist: Gist, did: Did): string =>
  (Object.keys(CALLED) as ItemKind[])
    .flatMap((kind) => {
      const count = gist[kind]?.[did] ?? 0;
      return count === 0 ? [] : [`${count} ${CALLED[kind][count === 1 ? 0 : 1]}`];
    })
    .join(', ');

/** In words: "4 pictures, 2 remarks; 3 altered; gone: 1 picture"; '' where nothing was done. */
export function wordsOfGist(gist: Gist): string {
  const altered = Object.values(gist).reduce((sum, counts) => sum + counts.altered, 0);
  const gone = counted(gist, 'removed');
  return [counted(gist, 'added'), altered > 0 ? `${altered} altered` : '', gone && `gone: ${gone}`]
    .filter(Boolean)
    .join('; ');
}

import type { Point } from '@miradero/core/geometry';
import { kindOf, picturesOf } from '@miradero/core/items';
import type { Picture } from '@miradero/core/schema';
import { whyOf } from '@miradero/core/text';
import pMap from 'p-map';
import type { Desk } from '../../desk/index.ts';
import {
  ask,
  DURABLE,
  type Errand,
  FailedError,
  type Gesture,
  newGesture,
  pathOfPicture,
  RefusedError,
  type Sync,
} from '../../sync/index.ts';
import type { BroughtAddress } from '../reading/brought.ts';
import { letStand, placesFor, showArrived } from './arrive.ts';
import { type Failure, gatheringOf } from './gathering.ts';
import { givePoster } from './give-poster.ts';
import { giveToAim } from './give-to-aim.ts';
import { knownWords, knownWordsOf } from './known-words.ts';

/** Addresses asked at once; the server asks no site more often at a time. */
const AT_ONCE = 4;
const RETRY_MS = [1_000, 2_000, 4_000, 8_000];
/** An address at which the server itself fails so often is left, with the reason: it holds up no other. */
const MOST_FAILURES = 3;
/** Sides of what nobody has told the sides of, until it is here. */
const UNKNOWN = { width: 3, height: 2 };

const running = new Set<string>();
const pause = (delayMs: number) => new Promise((resolve) => setTimeout(resolve, delayMs));

const hostOf = (address: string): string => (URL.canParse(address) ? new URL(address).host : address);
const nameOf = ({ name, title, address }: Errand): string => name ?? title ?? `From ${hostOf(address)}`;

/** Asks until there is an answer; the server may be away for long. */
async function persist<T>(asking: () => Promise<T>, signal: AbortSignal): Promise<T> {
  for (let failures = 0; ; failures += 1) {
    try {
      return await asking();
    } catch (error) {
      if (error instanceof RefusedError || signal.aborted) throw error;
      if (error instanceof FailedError && failures + 1 >= MOST_FAILURES) throw error;
      await pause(RETRY_MS[Math.min(failures, RETRY_MS.length - 1)]!);
    }
  }
}

interface Taken {
  readonly picture: Picture;
  /** The same bytes were here before. */
  readonly isKnown: boolean;
}

/** The picture of an errand, taken in by the server; undefined where there was a page, which is then shown. */
async function fetchPicture(sync: Sync, errand: Errand): Promise<Taken | undefined> {
  const { address, page, name, title, creator, licence } = errand;
  const { signal } = gatheringOf(sync);
  if (errand.stage === 'look') {
    const finds = await persist(
      () => ask('POST /api/gathering/finds', { body: { address } }, signal),
      signal,
    );
    if (finds.kind === 'picture') return finds;
    gatheringOf(sync).pick({ kind: 'page', page: finds.page, ...(errand.tag ? { tag: errand.tag } : {}) });
    return undefined;
  }
  const known = Object.fromEntries(
    Object.entries({ page, name, title, creator, licence }).filter(([, value]) => value !== undefined),
  );
  const body = { address, ...known };
  return persist(() => ask('POST /api/gathering/pictures', { body }, signal), signal);
}

function stand(desk: Desk, errand: Errand, picture: Picture, gesture: Gesture): string {
  const aspect = picture.width / picture.height;
  const width = Math.sqrt((errand.area ?? 40_000) * aspect);
  const place = { centre: errand.centre ?? { x: 0, y: 0 }, width };
  return letStand(desk, [{ ...picture, place }], gesture)[0]!;
}

/** What is taken from a place to look gets the tag of that place; what it was tagged before stays. */
async function giveTag(sync: Sync, picture: string, tag: string): Promise<void> {
  const known = sync.shelf.get(picture)?.picture?.tags ?? [];
  if (known.includes(tag)) return;
  const body = { tags: [...known, tag] };
  await sync.outbox.put({ kind: 'patch', path: pathOfPicture(picture), body, awaits: picture });
}

/** Follows the link of a small picture; the larger one takes its place, and keeps frame, trim and notes beside it. */
async function followLink(sync: Sync, desk: Desk | undefined, errand: Errand): Promise<void> {
  const small = sync.shelf.get(errand.picture!)?.picture;
  const { signal } = gatheringOf(sync);
  const body = { picture: errand.picture!, link: errand.link! };
  const { isLarger, picture } = await persist(
    () => ask('POST /api/gathering/larger', { body }, signal),
    signal,
  );
  sync.shelf.learn(picture);
  if (!isLarger) {
    const words = `“${picture.name}” is only there in this size: ${picture.width} × ${picture.height} px.`;
    if (desk) desk.say(words);
    else gatheringOf(sync).say(words);
    return;
  }
  const item = errand.item === undefined ? undefined : desk?.session.items.get(errand.item);
  if (desk && item && !item.removed && errand.picture && picturesOf(item).includes(errand.picture)) {
    const set = kindOf(item).exchanged?.(item, picture, false);
    if (set) desk.session.correct([{ item: item.id, set: { ...set } }]);
  }
  // What the large one replaces is no longer anything that came in.
  if (small)
    await sync.outbox.put({ kind: 'patch', path: `/api/pictures/${small.id}`, body: { isPutAway: true } });
}

interface Run {
  /** One undo takes back all of it. */
  readonly gesture: Gesture;
  count: number;
  /** Placements that were made. */
  readonly items: string[];
  /** Pictures that came in, those that were here before apart. */
  readonly pictures: string[];
  readonly known: Picture[];
}

/** Does one errand to its end; what fails stays, with the reason, until it is tried again. */
async function run(sync: Sync, desk: Desk | undefined, errand: Errand, gesture: Run): Promise<void> {
  const gathering = gatheringOf(sync);
  const { database } = sync;
  const drop = () => desk?.setArrivals(desk.now.arrivals.filter(({ key }) => key !== errand.id));
  try {
    if (gathering.report.isStopped && errand.stage !== 'larger') {
      await database.delete('errands', errand.id);
      gathering.end();
      return;
    }
    let left: Errand | undefined = errand;
    if (errand.stage !== 'larger') {
      const taken = await fetchPicture(sync, errand);
      left = undefined;
      if (taken) {
        const { picture, isKnown } = taken;
        sync.shelf.learn(picture);
        if (!isKnown) void givePoster(sync, picture);
        if (isKnown) gesture.known.push(picture);
        else gesture.pictures.push(picture.id);
        const item = desk && stand(desk, errand, picture, gesture.gesture);
        if (item) gesture.items.push(item);
        gesture.count += 1;
        await giveToAim(sync, picture.id);
        if (errand.tag) await giveTag(sync, picture.id, errand.tag);
        if (errand.link && picture.kind === 'still')
          left = { ...errand, stage: 'larger', picture: picture.id, ...(item ? { item } : {}) };
      }
      if (left) await database.put('errands', left);
      else await database.delete('errands', errand.id);
      drop();
    }
    if (left) {
      await followLink(sync, desk, left);
      await database.delete('errands', errand.id);
    }
    gathering.end();
  } catch (error) {
    const why = whyOf(error);
    // A page that does not answer leaves the small one as it is; what did not come at all can be tried again.
    if (errand.stage === 'larger' || gesture.count > 0) await database.delete('errands', errand.id);
    else await database.put('errands', { ...errand, trouble: why });
    const isStopped = gathering.signal.aborted;
    if (isStopped) await database.delete('errands', errand.id);
    gathering.end(isStopped ? undefined : { what: nameOf(errand), address: errand.address, why });
  } finally {
    drop();
  }
}

/** One that failed is said at once, in its own words; of several the list in the lintel tells. */
function sayWhatFailed(sync: Sync, desk: Desk | undefined, failures: readonly Failure[]): void {
  const [only, more] = failures;
  if (!only) return;
  const words = more
    ? `${failures.length} addresses did not come; the list above says why.`
    : `${only.address ?? only.what} did not come. ${only.why}`;
  if (desk) desk.say(words);
  else gatheringOf(sync).say(words);
}

async function runAll(sync: Sync, desk: Desk | undefined, errands: readonly Errand[]): Promise<void> {
  const mine = errands.filter(({ id }) => !running.has(id));
  if (mine.length === 0) return;
  for (const { id } of mine) running.add(id);
  gatheringOf(sync).begin(mine.length);
  const gesture: Run = { gesture: newGesture(), count: 0, items: [], pictures: [], known: [] };
  const runOne = async (errand: Errand) => {
    // Another window may be at it.
    await navigator.locks.request(`miradero-errand-${errand.id}`, { ifAvailable: true }, async (lock) => {
      if (lock) await run(sync, desk, errand, gesture);
      else gatheringOf(sync).end();
    });
    running.delete(errand.id);
  };
  const before = gatheringOf(sync).report.failures.length;
  await pMap(mine, runOne, { concurrency: AT_ONCE });
  sayWhatFailed(sync, desk, gatheringOf(sync).report.failures.slice(before));
  if (gesture.known.length > 0) {
    const { known } = gesture;
    if (desk)
      desk.say(
        await knownWordsOf(
          desk,
          known.map(({ id }) => id),
        ),
      );
    else
      gatheringOf(sync).say(
        knownWords(
          known.map(({ name }) => name),
          'lie',
        ),
      );
  }
  if (desk) showArrived(desk, gesture.items, gesture.pictures);
}

/** Takes what lies at addresses, to the board at a point, or to the landing. Kept before anything is asked. */
export async function fetchAll(
  sync: Sync,
  desk: Desk | undefined,
  brought: readonly BroughtAddress[],
  pointer: Point,
): Promise<void> {
  const shapes = brought.map(({ width, height }) => (width && height ? { width, height } : UNKNOWN));
  const places = desk ? placesFor(desk, shapes, pointer) : [];
  const errands = brought.map((one, index): Errand => {
    const { kind, isPicture, width, height, ...rest } = one;
    const place = places[index];
    return {
      ...{ id: crypto.randomUUID(), stage: isPicture ? 'take' : 'look', ...rest },
      ...(desk && place
        ? {
            board: desk.session.id,
            centre: { x: place.x + place.width / 2, y: place.y + place.height / 2 },
            area: place.width * place.height,
          }
        : {}),
      addedAt: new Date().toISOString(),
    };
  });
  const transaction = sync.database.transaction('errands', 'readwrite', DURABLE);
  await Promise.all([...errands.map((errand) => transaction.store.put(errand)), transaction.done]);
  if (desk) {
    const arrivals = errands.map((errand, index) => ({
      ...{ key: errand.id, name: nameOf(errand), place: places[index]! },
    }));
    desk.setArrivals([...desk.now.arrivals, ...arrivals]);
  }
  await runAll(sync, desk, errands);
}

/** Goes on with what an earlier visit left, for this board or for the landing. */
export async function resumeErrands(sync: Sync, desk: Desk | undefined, isAgain = false): Promise<void> {
  const all = await sync.database.getAll('errands').catch(() => []);
  const own = all.filter(({ board }) => board === desk?.session.id);
  const wanted = own.filter(({ trouble }) => isAgain || trouble === undefined);
  const failed = own.filter((errand) => !wanted.includes(errand));
  gatheringOf(sync).recall(
    failed.map((errand) => ({ what: nameOf(errand), address: errand.address, why: errand.trouble! })),
  );
  await runAll(
    sync,
    desk,
    wanted.map(({ trouble, ...errand }) => errand),
  );
}

/** Errands that failed are given up. */
export async function forgetErrands(sync: Sync): Promise<void> {
  for (const { id, trouble } of await sync.database.getAll('errands'))
    if (trouble !== undefined) await sync.database.delete('errands', id);
}

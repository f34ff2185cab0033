import {
  arrange,
  boardAfter,
  boundsOf,
  clusterAt,
  clusterOf,
  clustersAround,
  keysOnTop,
  layStrips,
  type Shape,
} from '@miradero/core/board';
import { centreOf, overlaps, type Point, type Rectangle } from '@miradero/core/geometry';
import {
  type Cluster,
  createPlacement,
  isCluster,
  isPlacement,
  type Placement,
  picturesOf,
} from '@miradero/core/items';
import { nextOfSeries, readableName } from '@miradero/core/picture';
import type { Operation } from '@miradero/core/schema';
import pMap from 'p-map';
import type { Arrival, Desk } from '../../desk/index.ts';
import { type Gesture, newGesture } from '../../sync/index.ts';
import type { BroughtFile } from '../reading/brought.ts';
import type { FileShape } from '../reading/shape-of-file.ts';
import { gatheringOf } from './gathering.ts';
import { giveToAim } from './give-to-aim.ts';
import { keepFile, shapeOrWhy, whyNot } from './keep-file.ts';
import { knownWordsOf } from './known-words.ts';

/** Files read and hashed at once: enough to keep the disk busy, few enough to keep memory low. */
const AT_ONCE = 2;

interface Incoming extends BroughtFile {
  readonly key: string;
  readonly shape: FileShape;
  readonly name: string;
}

/** Names of what stands on a board or is on its way there. */
function namesOn(desk: Desk): Set<string> {
  const standing = desk.session.standing.flatMap((item) =>
    picturesOf(item).flatMap((picture) => desk.sync.shelf.get(picture)?.name ?? []),
  );
  return new Set([...standing, ...desk.now.arrivals.map(({ name }) => name)]);
}

/** What a file is called here: what was said of it, its own name made readable, else the next of the board's series. */
export function nameFor({ file, name }: BroughtFile, title: string, taken: Set<string>): string {
  const chosen = name ?? readableName(file.name) ?? nextOfSeries(title, taken);
  taken.add(chosen);
  return chosen;
}

/** Looks at the heads of the files. @returns those that can come in; the others are told to the gathering */
async function examine(desk: Desk, brought: readonly BroughtFile[]): Promise<Incoming[]> {
  const gathering = gatheringOf(desk.sync);
  const shapes = await Promise.all(brought.map(({ file }) => shapeOrWhy(file)));
  const taken = namesOn(desk);
  return brought.flatMap((one, index): Incoming[] => {
    const shape = shapes[index]!;
    if (typeof shape === 'string') {
      gathering.end({ what: one.file.name, why: shape });
      return [];
    }
    return [{ ...one, key: crypto.randomUUID(), shape, name: nameFor(one, desk.session.board.name, taken) }];
  });
}

/** Where things of these shapes stand, beside each other near a point, clear of what stands or is arriving. */
export function placesFor(desk: Desk, shapes: readonly Shape[], pointer: Point): Rectangle[] {
  const placements = desk.session.standing.filter(isPlacement).map(boundsOf);
  const { items } = desk.session;
  const ground = clusterAt(items, pointer, new Set());
  const under = new Set(ground ? [ground.id, ...clustersAround(items, ground).map(({ id }) => id)] : []);
  const inTheWay = desk.session.standing.filter(({ id }) => !under.has(id));
  const standing = [...inTheWay.map(boundsOf), ...desk.now.arrivals.map(({ place }) => place)];
  // A perch of its own has no desk's view beside it.
  const view = desk.view?.view ?? { x: pointer.x - 640, y: pointer.y - 400, width: 1280, height: 800 };
  return arrange(shapes, pointer, view, placements, standing);
}

/** A picture and where it is to stand. */
export interface Standing {
  readonly id: string;
  readonly width: number;
  readonly height: number;
  readonly place: { readonly centre: Point; readonly width: number };
}

/** The strip that what comes joins wherever it comes down: it is selected alone. */
function chosenStrip({ selected }: Desk): Cluster | undefined {
  const [only] = selected;
  return selected.length === 1 && only && isCluster(only) && only.isStrip ? only : undefined;
}

/** What came down on the ground of a cluster lies in it; in a strip it stands at the head. */
function joining(desk: Desk, created: readonly Placement[]): Operation[] {
  const now = boardAfter(
    desk.session.items,
    created.map((create) => ({ create })),
  );
  const strip = chosenStrip(desk);
  const joins = created.flatMap((item): Operation[] => {
    const cluster = strip ?? clusterAt(now, item.centre, new Set());
    return cluster ? [{ item: item.id, set: { cluster: cluster.id } }] : [];
  });
  if (joins.length === 0) return [];
  const joined = boardAfter(now, joins);
  const clusters = created.map(({ id }) => clusterOf(joined, joined.get(id)!));
  const fresh = new Set(created.map(({ id }) => id));
  return [...joins, ...layStrips(joined, clusters, fresh, desk.gap)];
}

/** Lets pictures stand on the board, the last of them on top. @returns the ids of their placements */
export function letStand(desk: Desk, pictures: readonly Standing[], gesture: Gesture): string[] {
  const stacks = keysOnTop(desk.session.items.values(), pictures.length);
  const created = pictures.map(({ id: picture, width: pictureWidth, height: pictureHeight, place }, index) =>
    createPlacement({
      ...{ id: crypto.randomUUID(), stack: stacks[index]!, picture, pictureWidth, pictureHeight },
      ...place,
    }),
  );
  const operations = created.map((create) => ({ create }));
  desk.session.commit([...operations, ...joining(desk, created)], gesture);
  return created.map(({ id }) => id);
}

/** Tells a person what could not come in. */
export function sayFailures(desk: Desk, failures: readonly { what: string; why: string }[]): void {
  if (failures.length === 0) return;
  const count = failures.length === 1 ? 'One file was' : `${failures.length} files were`;
  desk.say(
    `${count} not taken in.`,
    failures.map(({ what, why }) => `${what}: ${why}`),
  );
}

/** What just came is what the next key acts on; of it, only what is new can be named. */
export function showArrived(desk: Desk, items: readonly string[], fresh: readonly string[]): void {
  // A hand that did something else meanwhile is not disturbed.
  if (desk.tool || desk.session.previewed.length > 0) return;
  const standing = items.filter((id) => desk.session.items.get(id)?.removed === false);
  if (standing.length > 0) desk.select(standing);
  desk.offerNaming(fresh);
}

/** Pictures kept within so long come to stand by one change: on a full board each costs most of a frame. */
const TOGETHER_MS = 250;

/** Lets what was kept stand on the board, several at a time, and takes the frames that held their places away. */
class StandingTogether {
  /** Placements that were made. */
  readonly items: string[] = [];
  readonly #desk: Desk;
  readonly #gesture: Gesture;
  #waiting: Standing[] = [];
  #keys = new Set<string>();
  #last = Number.NEGATIVE_INFINITY;
  #timer: ReturnType<typeof setTimeout> | undefined;

  constructor(desk: Desk, gesture: Gesture) {
    this.#desk = desk;
    this.#gesture = gesture;
  }

  add(key: string, picture: Standing): void {
    this.#waiting.push(picture);
    this.leaveOut(key);
  }

  leaveOut(key: string): void {
    this.#keys.add(key);
    const since = performance.now() - this.#last;
    if (since >= TOGETHER_MS) this.settle();
    else this.#timer ??= setTimeout(() => this.settle(), TOGETHER_MS - since);
  }

  settle(): void {
    clearTimeout(this.#timer);
    this.#timer = undefined;
    const [pictures, keys] = [this.#waiting, this.#keys];
    this.#waiting = [];
    this.#keys = new Set();
    if (pictures.length > 0) this.items.push(...letStand(this.#desk, pictures, this.#gesture));
    if (keys.size > 0) this.#desk.setArrivals(this.#desk.now.arrivals.filter(({ key }) => !keys.has(key)));
    this.#last = performance.now();
  }
}

/**
 * Brings files onto the board: frames with names at once, then bytes kept, placements made and uploads begun behind.
 * All of them are one gesture: one undo takes them back.
 *
 * @returns the ids of their placements
 */
export async function arrive(
  desk: Desk,
  brought: readonly BroughtFile[],
  pointer: Point,
  gesture = newGesture(),
): Promise<readonly string[]> {
  const gathering = gatheringOf(desk.sync);
  const known = gathering.report.failures.length;
  gathering.begin(brought.length);
  const good = await examine(desk, brought);
  const places = placesFor(
    desk,
    good.map(({ shape }) => shape),
    pointer,
  );
  const arrivals = good.map(({ key, name }, index): Arrival => ({ key, name, place: places[index]! }));
  desk.setArrivals([...desk.now.arrivals, ...arrivals]);

  const standing = new StandingTogether(desk, gesture);
  const again: string[] = [];
  const fresh: string[] = [];
  const keep = async (incoming: Incoming, index: number) => {
    const { file, shape, name, key } = incoming;
    try {
      if (gathering.report.isStopped) standing.leaveOut(key);
      else {
        const { picture, isKnown } = await keepFile(desk.sync, file, shape, name, incoming);
        // The bytes are kept before the placement stands, so that a lost tab loses nothing.
        const { width, height } = shape;
        const free = places[index]!;
        const place = { centre: centreOf(free), width: free.width };
        standing.add(key, { id: picture, width, height, place });
        (isKnown ? again : fresh).push(picture);
        await giveToAim(desk.sync, picture);
      }
      gathering.end();
    } catch (error) {
      gathering.end({ what: file.name, why: whyNot(error) });
      standing.leaveOut(key);
    }
  };
  await pMap(good, keep, { concurrency: AT_ONCE });
  standing.settle();
  const failures = gathering.report.failures.slice(known);
  if (failures.length > 0) sayFailures(desk, failures);
  else if (again.length > 0) desk.say(await knownWordsOf(desk, again));
  else if (desk.view && places.length > 0 && !places.some((place) => overlaps(place, desk.view!.view)))
    desk.say('There was no room in view: they stand beside it. 0 shows the whole board.');
  showArrived(desk, standing.items, fresh);
  return standing.items;
}

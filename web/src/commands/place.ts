import type { Shows } from '../shell/index.ts';
import { createStore, type Readable } from '../state/index.ts';

/**
 * Where commands apply, and what they act on there: the type of what a page hands over.
 * A place with a `page` is there on that page alone; one without may be there beside any other.
 */
export interface Place<Context> {
  readonly id: string;
  /** Heading under which its commands stand when they are looked for by name. */
  readonly words: string;
  readonly page?: string;
  /** Never set: carries the type. */
  readonly context?: (context: Context) => Context;
}

export const place = <Context>(id: string, words: string, page?: string): Place<Context> => ({
  id,
  words,
  ...(page === undefined ? {} : { page }),
});

type AnyPlace = Pick<Place<unknown>, 'id' | 'page'>;

/** Whether two places may be there at once, so that a key may not mean something in both. */
export const mayMeet = (one: AnyPlace, other: AnyPlace): boolean =>
  one.page === undefined || other.page === undefined || one.page === other.page;

type Contexts = readonly (() => unknown)[];
type Handed = ReadonlyMap<string, Contexts>;

/** What stands in front in this window: who hands over what to the commands. */
export class Places {
  readonly #beyond: Places | undefined;
  readonly #handed = createStore<Handed>(() => new Map());

  /** @param beyond - those of another window, of which here is what belongs to no page */
  constructor(beyond?: Places) {
    this.#beyond = beyond;
  }

  /** What is handed over, by the id of its place. */
  get store(): Readable<Handed> {
    return this.#handed;
  }

  /** @param context - asked for each time a command runs @returns a function that takes it away */
  provide<Context>({ id }: Place<Context>, context: () => Context): () => void {
    this.#alter(id, (all) => [...all, context]);
    return () => this.#alter(id, (all) => all.filter((one) => one !== context));
  }

  has(place: AnyPlace): boolean {
    return (
      this.#handed.getState().has(place.id) || (place.page === undefined && this.#beyond?.has(place) === true)
    );
  }

  /** What was handed over last, of those that are still there. */
  get<Context>(place: Place<Context>): Context | undefined {
    const own = this.#handed.getState().get(place.id)?.at(-1)?.() as Context | undefined;
    return own ?? (place.page === undefined ? this.#beyond?.get(place) : undefined);
  }

  #alter(id: string, alter: (all: Contexts) => Contexts): void {
    const next = new Map(this.#handed.getState());
    const all = alter(next.get(id) ?? []);
    if (all.length > 0) next.set(id, all);
    else next.delete(id);
    this.#handed.setState(next, true);
  }
}

/** A page that has a search of its own. */
export const FINDS = place<{ find(): void }>('finds', 'Everywhere');

/** A page that has something to keep in sight. */
export const PERCHABLE = place<{
  /** What the perch would show of it right now; undefined: nothing. */
  shows(): Shows | undefined;
}>('perchable', 'Everywhere');

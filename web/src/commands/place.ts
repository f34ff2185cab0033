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
  readonly #handed = createStore<Handed>(() => new Map());

  /** What is handed over, by the id of its place. */
  get store(): Readable<Handed> {
    return this.#handed;
  }

  /** @param context - asked for each time a command runs @returns a function that takes it away */
  provide<Context>({ id }: Place<Context>, context: () => Context): () => void {
    this.#alter(id, (all) => [...all, context]);
    return () => this.#alter(id, (all) => all.filter((one) => one !== context));
  }

  has({ id }: Pick<AnyPlace, 'id'>): boolean {
    return this.#handed.getState().has(id);
  }

  /** What was handed over last, of those that are still there. */
  get<Context>({ id }: Place<Context>): Context | undefined {
    return this.#handed.getState().get(id)?.at(-1)?.() as Context | undefined;
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

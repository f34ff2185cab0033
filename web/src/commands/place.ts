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

/** What stands in front in this window: who hands over what to the commands. */
export class Places {
  readonly #handed = new Map<string, (() => unknown)[]>();
  readonly #listeners = new Set<() => void>();

  /** Called when something is handed over or taken away. @returns a function that ends it */
  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  /** @param context - asked for each time a command runs @returns a function that takes it away */
  provide<Context>({ id }: Place<Context>, context: () => Context): () => void {
    const all = this.#handed.get(id) ?? [];
    this.#handed.set(id, [...all, context]);
    this.#tell();
    return () => {
      const left = (this.#handed.get(id) ?? []).filter((one) => one !== context);
      if (left.length > 0) this.#handed.set(id, left);
      else this.#handed.delete(id);
      this.#tell();
    };
  }

  has({ id }: Pick<AnyPlace, 'id'>): boolean {
    return this.#handed.has(id);
  }

  /** What was handed over last, of those that are still there. */
  get<Context>({ id }: Place<Context>): Context | undefined {
    return this.#handed.get(id)?.at(-1)?.() as Context | undefined;
  }

  #tell(): void {
    for (const listener of this.#listeners) listener();
  }
}

/** A page that has a search of its own. */
export const FINDS = place<{ find(): void }>('finds', 'Everywhere');

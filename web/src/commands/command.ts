import type { Place, Places } from './place.ts';

/** Anything that has a name and may have keys. */
export interface Keyed {
  readonly id: string;
  readonly label: string;
  /** Chapter of the sheet of keys. */
  readonly group: string;
  /** Ours, in the notation of tinykeys; several are alternatives. */
  readonly keys: readonly string[];
}

/** One thing that can be done, by key, by a word on the page, and by name; only where its place is. */
export interface Command extends Keyed {
  readonly place: Pick<Place<never>, 'id' | 'words' | 'page'>;
  /** Other words by which it is found. */
  readonly also: string;
  /** Done again and again while its key is held down; everything else happens once a press. */
  readonly isRepeating: boolean;
  /** Means nothing without the key that was pressed: it is not offered by name. */
  readonly isByKeyAlone: boolean;
  /** Does it where its place is; elsewhere nothing. @param press - which of its keys was pressed, from 0 */
  run(places: Places, press?: number): void;
  /** Its key is held while the hand does something. */
  readonly held?: {
    hold(places: Places): void;
    /** @returns whether nothing was done meanwhile: then a short press runs the command */
    letGo(places: Places): boolean;
  };
}

export interface Held<Context> {
  hold(context: Context): void;
  letGo(context: Context): boolean;
}

export interface More<Context> {
  readonly isRepeating?: boolean;
  readonly also?: string;
  readonly isByKeyAlone?: boolean;
  readonly held?: Held<Context>;
}

export type CommandRow<Context> = readonly [
  id: string,
  label: string,
  keys: string | readonly string[],
  run: (context: Context, press: number) => void,
  more?: More<Context>,
];

/** Commands of one place, as a table. */
export const commandsOf = <Context>(
  place: Place<Context>,
  group: string,
  rows: readonly CommandRow<Context>[],
): Command[] =>
  rows.map(([id, label, keys, run, more = {}]) => ({
    ...{ id, label, group, place, also: more.also ?? '' },
    isRepeating: more.isRepeating ?? false,
    isByKeyAlone: more.isByKeyAlone ?? false,
    keys: typeof keys === 'string' ? [keys] : keys,
    run(places, press = 0) {
      const context = places.get(place);
      if (context !== undefined) run(context, press);
    },
    ...(more.held && {
      held: {
        hold(places: Places) {
          const context = places.get(place);
          if (context !== undefined) more.held?.hold(context);
        },
        letGo(places: Places) {
          const context = places.get(place);
          return context !== undefined && more.held?.letGo(context) === true;
        },
      },
    }),
  }));

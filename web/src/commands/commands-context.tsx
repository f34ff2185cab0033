import { createContext, type ReactNode, useContext, useLayoutEffect, useMemo, useRef } from 'react';
import { useStore } from '../state/index.ts';
import { type Place, Places } from './place.ts';
import type { Registry } from './registry.ts';

interface Commands {
  readonly registry: Registry;
  readonly places: Places;
}

const Context = createContext<Commands | undefined>(undefined);

export function CommandsProvider({
  registry,
  beyond,
  children,
}: {
  registry: Registry;
  /** Places of the window that this one belongs to. */
  beyond?: Places;
  children: ReactNode;
}) {
  const commands = useMemo(() => ({ registry, places: new Places(beyond) }), [registry, beyond]);
  return <Context.Provider value={commands}>{children}</Context.Provider>;
}

export function useCommands(): Commands {
  const commands = useContext(Context);
  if (!commands) throw new Error('useCommands outside its provider');
  return commands;
}

/** Hands over what the commands of a place act on, as long as this component is there; undefined: nothing just now. */
export function usePlace<T>(place: Place<T>, context: T | undefined): void {
  const { places } = useCommands();
  const latest = useRef(context);
  latest.current = context;
  const isThere = context !== undefined;
  // With the words that name the keys: a key that is pressed as soon as its word is seen does what it says.
  useLayoutEffect(
    () => (isThere ? places.provide(place, () => latest.current as T) : undefined),
    [places, place, isThere],
  );
}

/** The same for what alters between two drawings: asked for each time. */
export function usePlaceOf<T>(place: Place<T>, context: () => T): void {
  const { places } = useCommands();
  const latest = useRef(context);
  latest.current = context;
  useLayoutEffect(() => places.provide(place, () => latest.current()), [places, place]);
}

/** What stands at a place now; its own identity must not change at every drawing. */
export function useStanding<T>(place: Place<T>): T | undefined {
  const { places } = useCommands();
  return useStore(places.store, () => places.get(place));
}

/** Runs a command by its id, from wherever its word stands. */
export function useRun(): (id: string) => void {
  const { registry, places } = useCommands();
  return (id) => registry.of(id).run(places);
}

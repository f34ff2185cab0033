import { useMemo, useSyncExternalStore } from 'react';
import { useSync } from '../shell/index.ts';
import { pressWords } from './key-press.ts';
import { ALL_KEYED, type Keyed, Keymap } from './keymap.ts';

/** The keymap as it is, also after it alters. */
export function useKeymap(): Keymap {
  const { settings } = useSync();
  useSyncExternalStore(settings.subscribe, () => settings.settings);
  return useMemo(() => new Keymap(settings), [settings]);
}

/** The first key of a command as it is written; '' for none. */
export function useKeyWords(): (id: string) => string {
  const keymap = useKeymap();
  return (id) => {
    const keyed: Keyed | undefined = ALL_KEYED.find((known) => known.id === id);
    const press = keyed && keymap.keysOf(keyed)[0];
    return press === undefined ? '' : pressWords(press);
  };
}

import { useMemo } from 'react';
import { useSync } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { useCommands } from './commands-context.tsx';
import { pressWords } from './key-press.ts';
import { Keymap } from './keymap.ts';

/** The keymap as it is, also after it alters. */
export function useKeymap(): Keymap {
  const { settings } = useSync();
  const { registry } = useCommands();
  useStore(settings.store);
  return useMemo(() => new Keymap(settings, registry.commands), [settings, registry]);
}

/** The first key of a command as it is written; '' for none. */
export function useKeyWords(): (id: string) => string {
  const keymap = useKeymap();
  const { registry } = useCommands();
  return (id) => {
    const [press] = keymap.keysOf(registry.of(id));
    return press === undefined ? '' : pressWords(press);
  };
}

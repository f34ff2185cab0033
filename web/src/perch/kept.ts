import { type IDBPDatabase, openDB } from 'idb';
import { recall, remember } from '../state/index.ts';

/**
 * What this browser keeps of the perch. Windows read and write `localStorage`, which all of them see at once; a browser that
 * is killed forgets its last seconds, so that each value goes to a database, too, and comes back from there.
 */
const PREFIX = 'miradero-perch-';
const STORE = 'kept';

interface Stamped {
  readonly savedAtMs: number;
}

let database: Promise<IDBPDatabase> | undefined;
const open = () => {
  database ??= openDB('miradero-perch', 1, {
    upgrade: (fresh) => void fresh.createObjectStore(STORE),
  });
  return database;
};

const stampOf = (text: string | null): number => {
  try {
    const { savedAtMs } = (JSON.parse(text ?? 'null') ?? {}) as Partial<Stamped>;
    return typeof savedAtMs === 'number' ? savedAtMs : 0;
  } catch {
    return 0;
  }
};

async function heal(): Promise<void> {
  try {
    const kept = await open();
    for (const key of await kept.getAllKeys(STORE)) {
      const text = (await kept.get(STORE, key)) as string;
      if (stampOf(text) > stampOf(readKept(String(key)))) remember(PREFIX + String(key), text);
    }
  } catch {
    // Without a database it is as `localStorage` has it.
  }
}

let healed: Promise<void> | undefined;
/** Until what a killed browser forgot is there again; to be waited for before anything is read. */
export function keptIsWhole(): Promise<void> {
  healed ??= heal();
  return healed;
}

/** @returns JSON as it was kept, maybe torn; null for nothing */
export const readKept = (name: string): string | null => recall(PREFIX + name);

export function keep(name: string, value: object): void {
  const text = JSON.stringify({ ...value, savedAtMs: Date.now() });
  remember(PREFIX + name, text);
  open()
    .then((kept) => kept.put(STORE, text, name))
    .catch(() => {
      // Without a database `localStorage` has it.
    });
}

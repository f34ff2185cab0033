import { addressIdOf } from '@miradero/core/picture';
import { MOST_REFUSED } from '@miradero/core/schema';
import type { Sync } from '../../sync/index.ts';

/** Remembers for all of a person's windows that a picture of the web was refused, or no longer; the oldest are forgotten. */
export function refuse(settings: Sync['settings'], address: string, isRefused: boolean): Promise<void> {
  const id = addressIdOf(address);
  const others = (settings.settings.refused ?? []).filter((one) => one !== id);
  return settings.set({ refused: isRefused ? [...others, id].slice(-MOST_REFUSED) : others });
}

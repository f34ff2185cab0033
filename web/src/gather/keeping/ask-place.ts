import type { PlaceToLook } from '@miradero/core/schema';
import type { Desk } from '../../desk/index.ts';
import type { Sync } from '../../sync/index.ts';
import { fetchAll } from './errands.ts';

/** The address of a place with the words in it. */
export const addressWith = ({ address }: PlaceToLook, words: string): string =>
  address.replaceAll('%s', encodeURIComponent(words.trim()));

/**
 * Asks a place to look for some words: what it shows comes as pictures to pick from, or the place opens in a tab of its own.
 * What is picked goes to the board of the desk, else to the landing.
 */
export function askPlace(sync: Sync, desk: Desk | undefined, place: PlaceToLook, words: string): void {
  const address = addressWith(place, words);
  if (place.isTab) {
    window.open(address, '_blank', 'noopener');
    return;
  }
  const { tag } = place;
  const asked = { kind: 'address', address, isPicture: false, ...(tag ? { tag } : {}) } as const;
  void fetchAll(sync, desk, [asked], desk?.view?.camera.centre ?? { x: 0, y: 0 });
}

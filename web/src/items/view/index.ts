import type { SavedView } from '@miradero/core/items';
import type { KindInInterface } from '../kind.ts';

/** A view is never selected: it is gone to. */
export const viewInInterface: KindInInterface<SavedView> = {
  nameOf: (_, { title }) => title,
  offers: [],
};

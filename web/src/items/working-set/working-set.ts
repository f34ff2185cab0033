import type { WorkingSet } from '@miradero/core/items';
import type { KindInInterface } from '../kind.ts';

/** A working set is never selected: the perch shows its pictures. */
export const workingSetInInterface: KindInInterface<WorkingSet> = {
  nameOf: (_, { title }) => title,
  offers: [],
};

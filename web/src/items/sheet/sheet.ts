import type { SheetItem } from '@miradero/core/items';
import type { KindInInterface } from '../kind.ts';

/** Paper is never selected: what is done to it is done on its board. */
export const sheetInInterface: KindInInterface<SheetItem> = {
  nameOf: () => undefined,
  offers: [],
};

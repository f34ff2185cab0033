import { isSheet, SHEET_ID, type SheetItem } from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';
import { useStore } from '../state/index.ts';

/** The paper beneath a board of the easel; undefined for any other board. */
export function sheetOf({ session }: Desk): SheetItem | undefined {
  const item = session.items.get(SHEET_ID);
  return item && isSheet(item) && !item.removed ? item : undefined;
}

export const useSheetOf = (desk: Desk): SheetItem | undefined =>
  useStore(desk.session.store, () => sheetOf(desk));

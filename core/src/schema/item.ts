/** Items are declared kind by kind in `core/items`; whoever speaks of what crosses a boundary finds them here, too. */
export {
  ITEM_SCHEMAS,
  type Item,
  type ItemKind,
  isItemKind,
  itemIdSchema,
  NOTE_MOST,
  type Note,
  type Placement,
  SET_SCHEMAS,
} from '../items/index.ts';

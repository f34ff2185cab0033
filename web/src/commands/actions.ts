import { type Action, DESK_ACTIONS } from '../desk/index.ts';
import { ITEM_ACTIONS } from '../items/index.ts';
import { TOOL_ACTIONS } from '../tools/index.ts';

/** Every action of a board. */
export const ACTIONS: readonly Action[] = [...DESK_ACTIONS, ...TOOL_ACTIONS, ...ITEM_ACTIONS];

export const actionOf = (id: string): Action => {
  const action = ACTIONS.find((known) => known.id === id);
  if (!action) throw new RangeError(`no such action: ${id}`);
  return action;
};

import { bringBackBoard, bringBackItems } from '@miradero/core/history';
import { CHANGE_LIMITS, type Operation } from '@miradero/core/schema';
import { useNavigate } from 'react-router';
import { usePlace } from '../../commands/index.ts';
import { type Desk, holdDesk, takeDesk } from '../../desk/index.ts';
import { PAST, type PastBoard } from '../../history/index.ts';
import { newGesture } from '../../sync/index.ts';

/** Makes one gesture of operations, however many they are. */
function make(live: Desk, operations: readonly Operation[]): void {
  const gesture = newGesture();
  for (let from = 0; from < operations.length; from += CHANGE_LIMITS.operations)
    live.session.commit(operations.slice(from, from + CHANGE_LIMITS.operations), gesture);
}

/** What can be done with a state: to bring it back, or to name it. */
export function usePastActions(desk: Desk, past: PastBoard, openName: () => void): void {
  const navigate = useNavigate();
  const { id } = past;
  const leave = () => void navigate(`/boards/${id}`);
  /** The board itself is opened when something is done to it. */
  const onBoard = async (act: (live: Desk) => void) => {
    const letGo = holdDesk(desk.sync, id);
    try {
      act(await takeDesk(desk.sync, id));
    } catch (error) {
      desk.say(`The board cannot be altered right now: ${(error as Error).message}`);
    } finally {
      letGo();
    }
  };
  const bringBackAll = (live: Desk) => {
    const operations = bringBackBoard(live.session.items, past.items);
    if (operations.length === 0) {
      desk.say('The board is as it was then.');
      return;
    }
    make(live, operations);
    live.say('The board is as it was then.', ['Undo brings back what it was before.']);
    leave();
  };
  const bringBackSome = (live: Desk, ids: readonly string[]) => {
    const operations = bringBackItems(live.session.items, past.items, ids);
    make(live, operations);
    const [what, is, stands] =
      ids.length === 1 ? ['It', 'is', 'stands'] : [`All ${ids.length}`, 'are', 'stand'];
    if (operations.length === 0) desk.say(`${what} ${stands} on the board just like that.`);
    else desk.say(`${what} ${is} back on the board.`, ['Undo takes that back.']);
  };
  usePlace(PAST, {
    leave,
    name: openName,
    bringBackAll: () => void onBoard(bringBackAll),
    bringBackSelected() {
      const ids = [...desk.selection];
      if (ids.length > 0) void onBoard((live) => bringBackSome(live, ids));
      else desk.say('Nothing is selected.', ['Press what you want back, or draw around it.']);
    },
  });
}

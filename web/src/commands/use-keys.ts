import { useEffect } from 'react';
import type { Desk } from '../desk/index.ts';
import { isTyping } from '../shell/index.ts';
import { ACTIONS } from './actions.ts';
import { isKeyOf, isPress } from './key-press.ts';
import { EVERYWHERE, isHeldAction, type Keyed, type Keymap } from './keymap.ts';

export type EverywhereId = (typeof EVERYWHERE)[number]['id'];

/** Done again and again while its key is held. */
const GOES_ON: ReadonlySet<EverywhereId> = new Set(['undo', 'redo']);

/** A key held longer than this was no tap. */
const TAP_MS = 350;
const CONTROL = 'button, a, [role="radio"], [role="dialog"]';

/** A focused control keeps the keys that work it; Space pans only while the stage has it. */
function isWorkingControl(event: KeyboardEvent): boolean {
  const isWorking = event.key === 'Enter' || event.key === ' ' || event.key.startsWith('Arrow');
  return isWorking && (event.target as HTMLElement).closest?.(CONTROL) != null;
}

const isInDialog = (event: KeyboardEvent) =>
  (event.target as HTMLElement).closest?.('[role="dialog"]') != null;

/** Makes every command reachable by its keys; keys that are held go to the desk and are let go there. */
export function useKeys(
  keymap: Keymap,
  desk: Desk | undefined,
  onEverywhere: (id: EverywhereId) => void,
): void {
  useEffect(() => {
    const does = (keyed: Keyed, event: KeyboardEvent) =>
      keymap.keysOf(keyed).some((press) => isPress(event, press));
    let heldSinceMs = 0;

    const onDown = (event: KeyboardEvent) => {
      if (isTyping(event) || isInDialog(event)) return;
      const everywhere = EVERYWHERE.find((known) => does(known, event));
      if (everywhere) {
        event.preventDefault();
        if (!event.repeat || GOES_ON.has(everywhere.id)) onEverywhere(everywhere.id);
        return;
      }
      const action = desk && ACTIONS.find((known) => does(known, event));
      if (!action || isWorkingControl(event)) return;
      event.preventDefault();
      if (!isHeldAction(action)) {
        if (!event.repeat || action.isRepeating) action.run(desk);
      } else if (!event.repeat) {
        heldSinceMs = event.timeStamp;
        desk.hold(action.held);
      }
    };
    const onUp = (event: KeyboardEvent) => {
      const action = ACTIONS.find(
        (known) => desk?.held !== undefined && known.held === desk.held && isItsKey(known, event),
      );
      if (!action?.held || !desk) return;
      const isTap = desk.letGo(action.held) && event.timeStamp - heldSinceMs < TAP_MS;
      if (isTap) action.run(desk);
    };
    const isItsKey = (keyed: Keyed, event: KeyboardEvent) =>
      keymap.keysOf(keyed).some((press) => isKeyOf(event, press));
    const onBlur = () => desk?.held && desk.letGo(desk.held);

    window.addEventListener('keydown', onDown);
    window.addEventListener('keyup', onUp);
    window.addEventListener('blur', onBlur);
    return () => {
      window.removeEventListener('keydown', onDown);
      window.removeEventListener('keyup', onUp);
      window.removeEventListener('blur', onBlur);
    };
  }, [keymap, desk, onEverywhere]);
}

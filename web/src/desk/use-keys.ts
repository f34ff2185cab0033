import { useEffect } from 'react';
import { tinykeys } from 'tinykeys';
import { ACTIONS } from './actions.ts';
import type { Desk } from './desk.ts';

/** Keys belong to whoever is being typed into. */
export function isTyping(event: Event): boolean {
  const { nodeName, isContentEditable } = event.target as HTMLElement;
  return (
    nodeName === 'INPUT' || nodeName === 'TEXTAREA' || nodeName === 'SELECT' || isContentEditable === true
  );
}

/** A focused control keeps the keys that work it. */
const isWorkingControl = (event: KeyboardEvent): boolean => {
  const control = (event.target as HTMLElement).closest?.('button, a, [role="radio"], [role="dialog"]');
  return (
    control !== null && control !== undefined && (event.key === 'Enter' || event.key.startsWith('Arrow'))
  );
};

/** Makes every action of the desk reachable by its keys. */
export function useKeys(desk: Desk): void {
  useEffect(() => {
    const bindings = Object.fromEntries(
      ACTIONS.flatMap((action) =>
        action.keys.map((key) => [
          key,
          (event: KeyboardEvent) => {
            if (isTyping(event) || isWorkingControl(event)) return;
            event.preventDefault();
            action.run(desk);
          },
        ]),
      ),
    );
    return tinykeys(window, bindings);
  }, [desk]);
}

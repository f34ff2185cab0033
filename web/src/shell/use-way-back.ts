import { type FocusEvent, type KeyboardEvent, useRef } from 'react';

/** Where the keyboard was before a line took it, and the way back there once the line is done. */
export function useWayBack(): {
  readonly onFocus: (event: FocusEvent<HTMLElement>) => void;
  readonly leave: (event: KeyboardEvent<HTMLElement>) => void;
} {
  const before = useRef<EventTarget | null>(null);
  return {
    onFocus: (event) => {
      before.current = event.relatedTarget;
    },
    leave: (event) => {
      const field = event.currentTarget;
      // The key would go on to what has the keyboard then: Enter would press a button.
      if (event.key === 'Enter') event.preventDefault();
      const to = before.current;
      if (to instanceof HTMLElement && to.isConnected && !to.contains(field))
        to.focus({ preventScroll: true });
      // Also where what had the keyboard takes it no more.
      if (field.ownerDocument.activeElement === field) field.blur();
    },
  };
}

import { useRef, useSyncExternalStore } from 'react';
import { shallow } from 'zustand/vanilla/shallow';

/**
 * What is made of things that alter, for a component that renders for that alone: what comes out with the same parts is
 * taken for the same.
 *
 * @param subscribe - calls back whenever something may have altered; its own identity must not alter at every drawing
 */
export function useMade<Made>(subscribe: (listener: () => void) => () => void, make: () => Made): Made {
  const last = useRef<{ readonly made: Made }>(undefined);
  return useSyncExternalStore(subscribe, () => {
    const made = make();
    if (!last.current || !shallow(last.current.made, made)) last.current = { made };
    return last.current.made;
  });
}

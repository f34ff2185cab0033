import { useRef, useSyncExternalStore } from 'react';
import { shallow } from 'zustand/vanilla/shallow';

type Parts = Readonly<Record<string, unknown>>;

/** Whether two are made of the same: parts that are lists or records count as the same when their own parts are. */
export function sameParts(one: Parts, other: Parts): boolean {
  const names = Object.keys(one);
  return names.length === Object.keys(other).length && names.every((name) => shallow(one[name], other[name]));
}

/**
 * What is made of things that alter, for a component that renders for that alone: what comes out with the same parts is
 * taken for the same.
 *
 * @param subscribe - calls back whenever something may have altered; its own identity must not alter at every drawing
 */
export function useMade<Made extends object>(
  subscribe: (listener: () => void) => () => void,
  make: () => Made,
): Made {
  const last = useRef<Made>(undefined);
  return useSyncExternalStore(subscribe, () => {
    const made = make();
    if (!last.current || !sameParts(last.current as Parts, made as Parts)) last.current = made;
    return last.current;
  });
}

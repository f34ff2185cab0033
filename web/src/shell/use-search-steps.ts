import { useCallback, useRef } from 'react';
import type { SetURLSearchParams } from 'react-router';

/** Whoever rests so long between two letters has looked at what was found. */
const SAME_SEARCH_MS = 2_500;

/**
 * What is looked for stands in the address: back and forward go through the searches. Typing on is the same search, not a
 * step for each letter.
 */
export function useSearchSteps(
  setParameters: SetURLSearchParams,
): (parameters: URLSearchParams, isTyping: boolean) => void {
  const typedAt = useRef(Number.NEGATIVE_INFINITY);
  return useCallback(
    (parameters, isTyping) => {
      const now = performance.now();
      const isSame = isTyping && now - typedAt.current < SAME_SEARCH_MS;
      typedAt.current = isTyping ? now : Number.NEGATIVE_INFINITY;
      setParameters(parameters, { replace: isSame });
    },
    [setParameters],
  );
}

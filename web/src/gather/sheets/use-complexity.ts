import pMap from 'p-map';
import { useEffect, useState } from 'react';
import { pixelPool } from '../../pixels/index.ts';

interface Shown {
  readonly key: string;
  readonly preview: string | Blob;
}

/** Previews measured at once: the server asks other sites for them. */
const AT_ONCE = 4;

/**
 * How complicated pictures to pick from are, 0..1 by key, once all of them were measured: an order that alters at every one
 * of them would move them under the hand. What cannot be measured is left out.
 */
export function useComplexity(pictures: readonly Shown[]): ReadonlyMap<string, number> {
  const [measured, setMeasured] = useState<ReadonlyMap<string, number>>(new Map());
  useEffect(() => {
    if (pictures.length === 0) return;
    const ending = new AbortController();
    const { signal } = ending;
    const measure = async ({ key, preview }: Shown): Promise<[string, number] | undefined> => {
      if (typeof preview !== 'string' || signal.aborted) return undefined;
      const answer = await pixelPool()
        .ask('complexity', { path: preview }, { signal })
        .catch(() => undefined);
      return answer && [key, answer[0]];
    };
    void pMap(pictures, measure, { concurrency: AT_ONCE }).then((all) => {
      if (!signal.aborted) setMeasured(new Map(all.filter((one) => one !== undefined)));
    });
    return () => ending.abort();
  }, [pictures]);
  return measured;
}

import { PURPOSES, type PurposeName } from '@miradero/core/schema';
import { useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { useMade } from '../state/index.ts';
import { selectSmallest, servedOn } from './smallest.ts';

/** Purposes to choose, with how many pictures serve each; then the fewest that serve them all are selected. */
export function SmallestList({ desk, onDone }: { desk: Desk; onDone: () => void }) {
  const { served } = useMade(desk.watch, () => ({ served: servedOn(desk), news: desk.sync.shelf.version }));
  const [chosen, setChosen] = useState<ReadonlySet<PurposeName>>(new Set());
  const needs = PURPOSES.filter((purpose) => chosen.has(purpose));
  return (
    <fieldset className="flex max-w-64 flex-col">
      <legend className="px-1.5 pt-1.5 text-[12px] text-muted">The fewest pictures for</legend>
      <div className="grid grid-cols-2">
        {PURPOSES.map((purpose) => (
          <label key={purpose} className="flex items-center gap-1.5 px-1.5 py-0.5">
            <input
              type="checkbox"
              checked={chosen.has(purpose)}
              onChange={() =>
                setChosen((before) => {
                  const next = new Set(before);
                  if (!next.delete(purpose)) next.add(purpose);
                  return next;
                })
              }
            />
            {purpose}
            <span className="figures text-[12px] text-muted">{served.get(purpose) ?? 0}</span>
          </label>
        ))}
      </div>
      <button
        type="button"
        disabled={needs.length === 0}
        className="word mt-1 self-start px-1.5 py-1 underline decoration-1 underline-offset-3 disabled:text-muted disabled:no-underline"
        onClick={() => {
          onDone();
          void selectSmallest(desk, needs);
        }}
      >
        select them
      </button>
    </fieldset>
  );
}

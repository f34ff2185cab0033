import { useCallback, useSyncExternalStore } from 'react';
import type { Desk } from '../desk/index.ts';
import { CardEnd, ToolCard } from '../shell/index.ts';
import { chosenMarks, chosenStore, recolourChosen, removeChosen } from './chosen.ts';
import { InkRow } from './ink-row.tsx';

function useChosen(desk: Desk): ReturnType<typeof chosenMarks> {
  const subscribe = useCallback(
    (listener: () => void) => {
      const ends = [desk.watch(listener), chosenStore(desk).subscribe(listener)];
      return () => {
        for (const end of ends) end();
      };
    },
    [desk],
  );
  // One word that alters with them.
  useSyncExternalStore(subscribe, () =>
    chosenMarks(desk)
      .map(({ id, ink }) => `${id} ${ink}`)
      .join(),
  );
  return chosenMarks(desk);
}

/** What is done to marks that were chosen. */
export function ChoosingCard({ desk }: { desk: Desk }) {
  const chosen = useChosen(desk);
  const inks = new Set(chosen.map(({ ink }) => ink));
  return (
    <ToolCard label="Marks, one by one" testId="choosing-card">
      <p role="status" className="text-muted">
        {chosen.length === 0
          ? 'No mark is chosen.'
          : chosen.length === 1
            ? 'One mark is chosen.'
            : `${chosen.length} marks are chosen.`}
      </p>
      {chosen.length > 0 && (
        <>
          <InkRow
            chosen={inks.size === 1 ? [...inks][0] : undefined}
            onChoose={(ink) => recolourChosen(desk, ink)}
          />
          <p className="mt-2">
            <button type="button" className="underline underline-offset-3" onClick={() => removeChosen(desk)}>
              remove
            </button>
          </p>
        </>
      )}
      <CardEnd onDone={() => desk.leaveTool()} />
    </ToolCard>
  );
}

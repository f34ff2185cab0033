import { createPortal } from 'react-dom';
import { useKeyWords, usePlace } from '../commands/index.ts';
import type { Desk } from '../desk/index.ts';
import { useStore } from '../state/index.ts';
import { PERCHABLE } from './commands.ts';
import { perch } from './open-perch.ts';
import { PerchSurface } from './perch-surface.tsx';

/** Lets the key of the perch open it with this board, and close it. */
export const usePerchKey = (desk: Desk): void =>
  usePlace(PERCHABLE, { toggle: () => void perch.toggle(desk) });

/** Opens the perch with this board, and closes it. */
export function PerchButton({ desk }: { desk: Desk }) {
  const isShown = useStore(perch.store, (shown) => shown.desk === desk);
  const key = useKeyWords()('perch');
  return (
    <button
      type="button"
      aria-pressed={isShown}
      className="flex items-center gap-1.5 bg-ink px-3 py-1 text-paper aria-pressed:bg-verdigris"
      onClick={() => void perch.toggle(desk)}
    >
      {key && <kbd className="font-mono text-[12px] opacity-80">{key}</kbd>}
      perch
    </button>
  );
}

/** Renders into the perch for as long as this window lives: it does not go with the board's page. */
export function PerchHost() {
  const { desk, holder } = useStore(perch.store);
  if (!desk || !holder) return null;
  return createPortal(<PerchSurface key={desk.session.id} desk={desk} onClose={perch.close} />, holder);
}

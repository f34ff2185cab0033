import { useCallback, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Desk } from '../desk/index.ts';
import { Notice, openBoards } from '../shell/index.ts';
import { KeysSheet } from './keys-sheet.tsx';
import { Palette } from './palette.tsx';
import { useKeymap } from './use-keymap.ts';
import { type EverywhereId, useKeys } from './use-keys.ts';
import { useSteps } from './use-steps.ts';

const COMMAND = 'miradero-command';

/** Runs a command that is there on every page, from wherever its word stands. */
export const runCommand = (id: string): void => {
  window.dispatchEvent(new CustomEvent(COMMAND, { detail: id }));
};

/**
 * Keys, the sheet of all keys and the palette of everything by name, for one page.
 *
 * @param onFind - what `find` does here; by default the palette
 */
export function CommandRoom({ desk, onFind }: { desk?: Desk; onFind?: () => void }) {
  const keymap = useKeymap();
  const navigate = useNavigate();
  const [open, setOpen] = useState<'keys' | 'palette'>();
  const { notice, turn, unsay } = useSteps(desk);

  const everywhere = useCallback(
    (id: EverywhereId) => {
      const step = (by: number) => {
        const ids = openBoards.ids();
        if (ids.length === 0) return;
        const at = desk ? ids.indexOf(desk.session.id) : by > 0 ? -1 : 0;
        void navigate(`/boards/${ids[(at + by + ids.length) % ids.length]}`);
      };
      if (id === 'palette' || id === 'keys') setOpen(id);
      else if (id === 'undo' || id === 'redo') turn(id);
      else if (id === 'find') (onFind ?? (() => setOpen('palette')))();
      else if (id === 'all-boards') void navigate('/boards');
      else if (['landing', 'settings', 'library', 'subjects'].includes(id)) void navigate(`/${id}`);
      else if (id === 'sources') void navigate(desk ? `/sources?board=${desk.session.id}` : '/sources');
      else if (id === 'bring') void navigate(desk ? `/bring?board=${desk.session.id}` : '/bring');
      else if (id === 'close-board' || id === 'put-away') {
        if (!desk) return;
        if (id === 'put-away') desk.session.patchBoard({ putAway: true });
        openBoards.close(desk.session.id);
        void navigate(id === 'put-away' ? `/boards?put-away=${desk.session.id}` : '/boards');
      } else step(id === 'next-board' ? 1 : -1);
    },
    [desk, navigate, onFind, turn],
  );
  useKeys(keymap, desk, everywhere);
  useEffect(() => {
    const onCommand = (event: Event) => everywhere((event as CustomEvent<EverywhereId>).detail);
    window.addEventListener(COMMAND, onCommand);
    return () => window.removeEventListener(COMMAND, onCommand);
  }, [everywhere]);
  const close = () => setOpen(undefined);

  return (
    <>
      <div role="status" aria-live="polite" className="fixed bottom-14 left-[46px] z-30 max-w-[80vw]">
        <Notice notice={notice} onClose={unsay} className="max-h-[40vh] max-w-md px-4 py-3 text-[13px]" />
      </div>
      {open === 'keys' && <KeysSheet keymap={keymap} onClose={close} />}
      {open === 'palette' && (
        <Palette keymap={keymap} desk={desk} onEverywhere={everywhere} onClose={close} />
      )}
    </>
  );
}

import { useMemo, useState } from 'react';
import { Outlet, useNavigate, useParams } from 'react-router';
import { CommandsProvider, FINDS, useCommands, useKeymap, useKeys, usePlace } from '../commands/index.ts';
import { KeysSheet, Palette } from '../palette/index.ts';
import { PerchHost } from '../perch/index.ts';
import { amongPanes, Notice, useSync } from '../shell/index.ts';
import { ANYWHERE } from './anywhere.ts';
import { REGISTRY } from './registry.ts';
import { useSteps } from './use-steps.ts';

/** The keys of whatever page is in front, the sheet of all keys, everything by name, undo and what is said of it. */
function Host() {
  const sync = useSync();
  const keymap = useKeymap();
  const navigate = useNavigate();
  const { id } = useParams();
  const { registry, places } = useCommands();
  const [open, setOpen] = useState<'keys' | 'palette'>();
  const { notice, turn, say, unsay } = useSteps();
  usePlace(ANYWHERE, {
    board: location.pathname.startsWith('/boards/') ? id : undefined,
    go: (path, state) => void navigate(amongPanes(path, window.location), state ? { state } : {}),
    turn,
    open: setOpen,
    find: () => (places.get(FINDS)?.find ?? (() => setOpen('palette')))(),
  });
  useKeys(keymap);
  const means = useMemo(
    () => ({
      sync,
      places,
      go: (path: string, show?: object) =>
        void navigate(amongPanes(path, window.location), { state: show ?? null }),
    }),
    [sync, places, navigate],
  );
  const close = () => setOpen(undefined);
  return (
    <>
      <div role="status" aria-live="polite" className="fixed bottom-14 left-[46px] z-30 max-w-[80vw]">
        <Notice notice={notice} onClose={unsay} className="max-h-[40vh] max-w-md px-4 py-3 text-[13px]" />
      </div>
      <PerchHost say={say} />
      {/* No chunks of their own: what is typed right after their key is theirs. */}
      {open === 'keys' && <KeysSheet keymap={keymap} onClose={close} />}
      {open === 'palette' && <Palette keymap={keymap} registry={registry} means={means} onClose={close} />}
    </>
  );
}

/** Every page that has commands. */
export function Component() {
  return (
    <CommandsProvider registry={REGISTRY}>
      <Outlet />
      <Host />
    </CommandsProvider>
  );
}

import { type ReactNode, useEffect, useState } from 'react';
import type { Tool } from '../desk/index.ts';
import type { Shows } from '../shell/index.ts';
import { type PaneDesk, usePaneDesk, watchTitle } from './pane-desk.ts';
import { PANE_HAND } from './pane-hand.ts';

/** What shows something of a board beside it. */
export interface Beside {
  readonly open: PaneDesk;
  readonly title: string;
  /** What the hand does there while no tool is taken. */
  readonly hand: Tool;
}

function Titled({ open, children }: { open: PaneDesk; children: (beside: Beside) => ReactNode }) {
  const [title, setTitle] = useState(() => open.title());
  useEffect(() => {
    const tell = () => setTitle(open.title());
    tell();
    return watchTitle(open, tell);
  }, [open]);
  return children({ open, title, hand: PANE_HAND });
}

/** Opens something of a board, to be shown beside it. @param children - shows it once it is open */
export function ShownBeside({
  shows,
  children,
}: {
  shows: Shows;
  children: (beside: Beside | { readonly trouble: string } | undefined) => ReactNode;
}) {
  const opened = usePaneDesk(shows);
  if (!opened || 'trouble' in opened) return children(opened);
  return <Titled open={opened}>{children}</Titled>;
}

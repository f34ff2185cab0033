import { useEffect } from 'react';
import { useParams } from 'react-router';
import { type Desk, useDesk } from '../desk/index.ts';
import { Message, useTheme } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { PerchSurface } from './perch-surface.tsx';

function OpenPerch({ desk }: { desk: Desk }) {
  const board = useStore(desk.session.store, ({ board }) => board);
  useTheme(board.surround);
  useEffect(() => {
    document.title = `${board.name} · perch`;
  }, [board.name]);
  return (
    <main className="perch">
      <PerchSurface desk={desk} onClose={() => window.close()} />
    </main>
  );
}

/** The perch as a page of its own: a popup that survives the window that opened it. */
export function PerchPage() {
  const { id = '' } = useParams();
  const opened = useDesk(id);
  if (opened === undefined) return null;
  if ('trouble' in opened) return <Message title="The board does not come">{opened.trouble}</Message>;
  return <OpenPerch desk={opened.desk} />;
}

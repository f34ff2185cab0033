import { useEffect, useMemo } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { Message } from '../shell/index.ts';
import { ArrangementStore, arrangementShowing } from './arrangement.ts';
import { PerchRoom } from './perch-room.tsx';

/** The perch as a page of its own: a popup that survives the window that opened it, or a narrow window beside the work. */
export function PerchPage() {
  const { id } = useParams();
  const [search] = useSearchParams();
  const name = search.get('arrangement') ?? id;
  const arrangement = useMemo(() => {
    if (name === undefined) return undefined;
    const kept = ArrangementStore.kept(name);
    if (kept) return new ArrangementStore(name, kept);
    return id === undefined
      ? undefined
      : new ArrangementStore(name, arrangementShowing({ kind: 'board', board: id }));
  }, [name, id]);
  useEffect(() => {
    document.title = 'Perch';
    const keep = () => arrangement?.keep();
    window.addEventListener('pagehide', keep);
    return () => window.removeEventListener('pagehide', keep);
  }, [arrangement]);
  if (!arrangement)
    return <Message title="Nothing is kept for this window">Close it, and open the perch again.</Message>;
  return (
    <main className="perch">
      <PerchRoom
        arrangement={arrangement}
        window={window}
        onFollow={() => {}}
        onClose={() => window.close()}
      />
    </main>
  );
}

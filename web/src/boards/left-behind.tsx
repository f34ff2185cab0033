import type { Picture } from '@miradero/core/schema';
import { useEffect, useState } from 'react';
import { useSync } from '../shell/index.ts';
import { ask, newGesture, patchPicture } from '../sync/index.ts';

/** A board was put away: what was here for it alone is offered to go with it. */
export function LeftBehind({ board, onDone }: { board: string; onDone: () => void }) {
  const sync = useSync();
  const [pictures, setPictures] = useState<readonly Picture[]>([]);
  useEffect(() => {
    let isHere = true;
    ask('GET /api/pictures', { query: { onlyFor: board } }).then(
      (answer) => {
        if (!isHere) return;
        setPictures(answer.pictures);
        if (answer.pictures.length === 0) onDone();
      },
      // Nothing is offered then; they stay, and can be put away later.
      () => {},
    );
    return () => {
      isHere = false;
    };
  }, [board, onDone]);
  if (pictures.length === 0) return null;
  const putAway = () => {
    const gesture = newGesture();
    for (const known of pictures) void patchPicture(sync, known.id, { isPutAway: true }, { known, gesture });
    onDone();
  };
  const words = pictures.length === 1 ? 'One picture was' : `${pictures.length} pictures were`;
  return (
    <p role="status" className="mb-6 flex flex-wrap items-baseline gap-x-5 gap-y-1 border-line border-y py-3">
      <span>
        {words} for that drawing only:{' '}
        <span className="font-serif italic">
          {pictures
            .slice(0, 4)
            .map(({ name }) => name)
            .join(', ')}
        </span>
      </span>
      <button type="button" className="underline underline-offset-3" onClick={putAway}>
        Put {pictures.length === 1 ? 'it' : 'them'} away, too
      </button>
      <button type="button" className="text-muted underline underline-offset-3" onClick={onDone}>
        Keep
      </button>
    </p>
  );
}

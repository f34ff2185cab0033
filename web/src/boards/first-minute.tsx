import { useRef } from 'react';
import { useNavigate } from 'react-router';
import { type Brought, bring, GatherWords, gatheringOf, type OnBring, takeBoards } from '../gather/index.ts';
import { useSync } from '../shell/index.ts';
import { ask, recordBoardMade } from '../sync/index.ts';

const FIRST_NAME = 'First board';

/** Makes a board of what is brought where none is, and opens it; where none can be made now, it comes to the landing. */
export function useFirstBoard(): OnBring {
  const sync = useSync();
  const navigate = useNavigate();
  const making = useRef<Promise<string>>(undefined);
  return async (given: readonly Brought[]) => {
    const brought = await takeBoards(given);
    if (brought.length === 0) return;
    making.current ??= ask('POST /api/boards', { body: { name: FIRST_NAME } }).then(({ board }) => {
      recordBoardMade(sync, board);
      return board.id;
    });
    try {
      const id = await making.current;
      gatheringOf(sync).carry(id, brought);
      await navigate(`/boards/${id}`);
    } catch (error) {
      making.current = undefined;
      await bring({ sync, desk: undefined, at: { x: 0, y: 0 } }, brought);
      gatheringOf(sync).say(
        `No board could be made now: ${error instanceof Error ? error.message : error} What you brought waits on the landing.`,
      );
    }
  };
}

/** What one can do where no board is yet. */
export function FirstMinute({ onName }: { onName: () => void }) {
  return (
    <section aria-label="Begin" className="pb-6">
      {/* The ground of a board: what is dropped stands on such. */}
      <p className="grid h-72 place-items-center bg-[#797979] px-6 text-center font-serif text-[30px] text-black leading-[1.15] tracking-[-0.01em] max-md:h-48 max-md:text-[24px]">
        Drop pictures here. They become your first board.
      </p>
      <ol className="mt-9 grid grid-cols-3 gap-x-8 gap-y-7 max-md:grid-cols-1">
        <li className="border-line border-t pt-3">
          <h2 className="font-serif text-[18px] italic">Bring something in</h2>
          <p className="mt-1 text-muted">
            Files, folders and archives, a picture from another window, whatever was copied.
          </p>
          <p className="-mx-1.5 mt-2 flex flex-wrap gap-x-2">
            <GatherWords />
          </p>
        </li>
        <li className="border-line border-t pt-3">
          <h2 className="font-serif text-[18px] italic">Begin with an empty one</h2>
          <p className="mt-1 text-muted">
            Name a board for what you are going to draw, and fill it as you go.
          </p>
          <button
            type="button"
            className="-mx-1.5 mt-2 px-1.5 py-1 underline underline-offset-3"
            onClick={onName}
          >
            name a board
          </button>
        </li>
        <li className="border-line border-t pt-3">
          <h2 className="font-serif text-[18px] italic">See it in use</h2>
          <p className="mt-1 text-muted">
            Four boards of an invented ferry, with subjects and sources, beside your own data:
          </p>
          <p className="mt-2">
            <code className="figures select-all border border-line bg-raised px-2 py-1 text-[13px]">
              npm run demo
            </code>
          </p>
        </li>
      </ol>
    </section>
  );
}

import type { FoundPage, Picture } from '@miradero/core/schema';
import { useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { Lintel, useBoards, useSync, useTheme } from '../../shell/index.ts';
import { ask } from '../../sync/index.ts';
import { GatherLine } from '../gather-line.tsx';
import { GatherRoom } from '../gather-room.tsx';
import { placeOnBoard } from '../keeping/place-on-board.ts';
import { PickingSheet } from '../sheets/picking-sheet.tsx';

type State =
  | { readonly kind: 'asking' }
  | { readonly kind: 'trouble'; readonly words: string }
  | { readonly kind: 'page'; readonly page: FoundPage }
  | { readonly kind: 'picture'; readonly picture: Picture };

/** Where a picture that just came goes from here. */
function Onward({ picture }: { picture: Picture }) {
  const sync = useSync();
  const { data: boards = [] } = useBoards();
  const [on, setOn] = useState<{ id: string; name: string }>();
  return (
    <>
      <p className="mt-2 text-muted">
        {picture.width} × {picture.height} px.{' '}
        {on ? (
          <>
            It stands on{' '}
            <Link className="underline underline-offset-3" to={`/boards/${on.id}`}>
              {on.name}
            </Link>
            .
          </>
        ) : (
          <>
            It lies on the{' '}
            <Link className="underline underline-offset-3" to="/landing">
              landing
            </Link>
            ; or let it stand on a board:
          </>
        )}
      </p>
      {!on && (
        <ul className="mt-3 flex flex-wrap gap-2">
          {boards
            .filter(({ putAway }) => !putAway)
            .slice(0, 8)
            .map((board) => (
              <li key={board.id}>
                <button
                  type="button"
                  className="border border-line bg-raised px-3 py-1.5 font-serif text-[15px]"
                  onClick={() => void placeOnBoard(sync, board.id, [picture]).then(() => setOn(board))}
                >
                  {board.name}
                </button>
              </li>
            ))}
        </ul>
      )}
    </>
  );
}

/** Where the bookmark leads: hands the page or picture at hand in, if its key is right. */
export function ClipPage() {
  useTheme(undefined);
  const sync = useSync();
  const [parameters] = useSearchParams();
  const address = parameters.get('address') ?? '';
  const clipKey = parameters.get('key') ?? '';
  const [state, setState] = useState<State>({ kind: 'asking' });
  const [hasPicked, setPicked] = useState(false);
  useEffect(() => {
    document.title = 'Clip · Miradero';
    let isHere = true;
    // Without a key anybody's page could make this one ask for anything.
    const asked =
      clipKey === ''
        ? Promise.reject(new Error('This bookmark has no key. Make a new one in the settings.'))
        : ask('POST /api/gathering/finds', { body: { address, clipKey } });
    asked.then(
      (finds) => isHere && setState(finds),
      (error: Error) => isHere && setState({ kind: 'trouble', words: error.message }),
    );
    return () => {
      isHere = false;
    };
  }, [address, clipKey]);
  const to = { sync, desk: undefined, at: { x: 0, y: 0 } };
  const host = URL.canParse(address) ? new URL(address).host : address;
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />} />
      <GatherRoom />
      <div className="mx-auto w-full max-w-2xl px-6 py-9">
        {state.kind === 'asking' && (
          <h1 className="font-serif text-[18px] text-muted italic">Looking at {host} …</h1>
        )}
        {state.kind === 'trouble' && (
          <>
            <h1 className="font-serif text-[26px]">Nothing was clipped</h1>
            <p role="alert" className="mt-2 text-muted">
              {state.words}
            </p>
          </>
        )}
        {state.kind === 'picture' && (
          <>
            <h1 className="font-serif text-[26px]">“{state.picture.name}” is here</h1>
            <Onward picture={state.picture} />
          </>
        )}
        {state.kind === 'page' && (
          <>
            <h1 className="font-serif text-[26px]">{state.page.title ?? host}</h1>
            <p className="mt-2 text-muted">
              {hasPicked ? (
                <>
                  What you picked comes to the{' '}
                  <Link className="underline underline-offset-3" to="/landing">
                    landing
                  </Link>
                  .
                </>
              ) : state.page.pictures.length === 1 ? (
                'One picture is on this page.'
              ) : (
                `${state.page.pictures.length} pictures are on this page.`
              )}
            </p>
            {!hasPicked && (
              <PickingSheet
                picking={{ kind: 'page', page: state.page }}
                to={to}
                onClose={() => setPicked(true)}
              />
            )}
          </>
        )}
      </div>
    </main>
  );
}

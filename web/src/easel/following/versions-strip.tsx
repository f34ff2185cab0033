import { boundsOf, keysOnTop } from '@miradero/core/board';
import { createPlacement, shownInstead } from '@miradero/core/items';
import type { Drawing, Picture } from '@miradero/core/schema';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { createPortal } from 'react-dom';
import type { Desk } from '../../desk/index.ts';
import { momentWords } from '../../history/index.ts';
import { DRAWINGS, Thumb, useNarrow } from '../../shell/index.ts';
import { askPictures } from '../../sync/index.ts';
import { sheetOf } from '../sheet-of.ts';
import { placementOf } from './followed-drawings.ts';

const NONE: ReadonlyMap<string, Picture> = new Map();
/** Height of a version's picture, px; where the window is narrow the sheet needs the room. */
const SIDE = { wide: 84, narrow: 48 } as const;
/** Space to what stands beside the sheet, of its width. */
const GAP = 0.06;

/** Lets one version stay in sight, to the right of everything, as a picture of its own. */
function letStand(desk: Desk, drawing: string, picture: Picture): void {
  const { session } = desk;
  const now = placementOf(desk, drawing);
  if (!now) return;
  const sheet = sheetOf(desk);
  const all = [...session.standing, ...(sheet ? [sheet] : [])].map(boundsOf);
  const right = Math.max(...all.map((one) => one.x + one.width));
  const [stack] = keysOnTop(session.standing, 1);
  const create = createPlacement({
    ...{ id: crypto.randomUUID(), stack: stack!, ...shownInstead(now, picture) },
    centre: { x: right + now.width * (0.5 + GAP), y: now.centre.y },
  });
  session.commit([{ create }]);
  desk.select([create.id]);
  desk.view?.reveal(boundsOf(create));
}

/**
 * Every version that is kept of a drawing, newest first. One under the pointer, or with the keyboard, is looked at in the
 * drawing's place; a press lets it stand beside.
 */
export function VersionsStrip({
  desk,
  drawing,
  onClose,
}: {
  desk: Desk;
  drawing: Drawing;
  onClose: () => void;
}) {
  const side = useNarrow() ? SIDE.narrow : SIDE.wide;
  const ids = [...new Set(drawing.versions.map(({ picture }) => picture))];
  const { data: byId = NONE } = useQuery({
    queryKey: [...DRAWINGS, 'pictures', ids],
    queryFn: () => askPictures(ids),
    placeholderData: (was) => was,
  });
  // Who rests on one before it is known what it is sees it once that is.
  const [looked, setLooked] = useState<string>();
  const seen = looked === undefined ? undefined : byId.get(looked);
  useEffect(() => {
    const now = placementOf(desk, drawing.id);
    desk.session.preview(seen && now ? [{ item: now.id, set: shownInstead(now, seen) }] : []);
  }, [desk, drawing.id, seen]);
  useEffect(() => () => desk.session.preview([]), [desk]);
  const holder = desk.view?.canvas.closest('[data-front]') ?? desk.view?.canvas.parentElement?.parentElement;
  if (!holder) return null;
  return createPortal(
    <section
      aria-label={`Versions of ${drawing.name}`}
      data-on-board
      className="absolute bottom-3 left-3 z-10 flex max-w-[calc(100%-232px)] flex-col border border-line bg-paper p-2 max-md:top-16 max-md:bottom-auto max-md:max-w-[calc(100%-24px)]"
    >
      <p className="mb-1 flex items-baseline gap-3 text-[12px]">
        <span className="min-w-0 truncate font-serif text-[14px] italic">
          <bdi>{drawing.name}</bdi>
        </span>
        <span className="text-muted max-md:hidden">
          rest on one to look at it; press it and it stands beside
        </span>
        <span className="flex-1" />
        <button type="button" className="underline underline-offset-3" onClick={onClose}>
          done
        </button>
      </p>
      <ol className="flex gap-2 overflow-x-auto pb-1">
        {drawing.versions.map(({ number, picture: id, savedAt }) => {
          const picture = byId.get(id);
          const when = momentWords(new Date(savedAt));
          return (
            <li
              key={number}
              className="shrink-0"
              onPointerEnter={() => setLooked(id)}
              onPointerLeave={() => setLooked(undefined)}
            >
              <button
                type="button"
                aria-label={`Version ${number}, ${when}`}
                className="block border border-transparent p-0.5 hover:border-line focus-visible:border-ink"
                disabled={!picture}
                onFocus={() => setLooked(id)}
                onBlur={() => setLooked(undefined)}
                onClick={() => {
                  setLooked(undefined);
                  desk.session.preview([]);
                  if (picture) letStand(desk, drawing.id, picture);
                }}
              >
                <span
                  className="mx-auto grid place-items-center overflow-hidden bg-[#797979]"
                  style={{ height: side, minWidth: 60, maxWidth: side * 1.5 }}
                >
                  {picture && <Thumb picture={picture} width={side * 1.5} height={side} />}
                </span>
                <span className="figures mt-0.5 block text-[12px] text-muted">
                  {number} · {when}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
    </section>,
    holder,
  );
}

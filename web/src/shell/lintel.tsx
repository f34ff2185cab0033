import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { Link, useLocation } from 'react-router';
import { BoardTabs, useTabs } from './board-tabs.tsx';
import { SavedMark } from './saved-mark.tsx';
import { type Trouble, TroubleTongue } from './trouble-tongue.tsx';
import { useLandingCount } from './use-landing-count.ts';

interface PlaceWord {
  readonly path: string;
  readonly name: string;
  /** Other paths that belong to it. */
  readonly also: readonly string[];
}

/** The places of the application, in the order in which they stand everywhere. */
const PLACES: readonly PlaceWord[] = [
  { path: '/boards', name: 'Boards', also: [] },
  { path: '/easel', name: 'Easel', also: [] },
  { path: '/library', name: 'Library', also: ['/sources'] },
  { path: '/subjects', name: 'Subjects', also: [] },
  { path: '/landing', name: 'Landing', also: ['/bring', '/clip'] },
  { path: '/settings', name: 'Settings', also: [] },
];

const isAt = (pathname: string, path: string): boolean =>
  pathname === path || pathname.startsWith(`${path}/`);
const placeAt = (pathname: string): PlaceWord =>
  PLACES.find(({ path, also }) => [path, ...also].some((one) => isAt(pathname, one))) ?? PLACES[0]!;

/** One place as a word. @param home - where it leads instead, while it is the present one */
function PlaceLink({
  place,
  present,
  home,
  isBare = false,
  className,
}: {
  place: PlaceWord;
  present: PlaceWord;
  home?: string;
  isBare?: boolean;
  className: string;
}) {
  const { pathname } = useLocation();
  const landed = useLandingCount(!isBare);
  const isPresent = present === place;
  const count = place.path === '/landing' && landed ? landed : undefined;
  return (
    <Link
      to={isPresent && home ? home : place.path}
      aria-current={isPresent ? (pathname === place.path ? 'page' : 'true') : undefined}
      className={`whitespace-nowrap font-serif text-[15px] text-muted hover:text-ink aria-[current]:text-ink ${className}`}
    >
      {place.name}
      {count !== undefined && <span className="figures ml-1">{count}</span>}
    </Link>
  );
}

const PLACES_WORD = 'whitespace-nowrap border-verdigris border-b-2 font-serif text-[16px]';

/** Where there is no room for all places: the present one, which opens the others and the open boards. */
function PlacesList({ present, home }: { present: PlaceWord; home?: string }) {
  const { boards } = useTabs();
  return (
    <Popover.Root>
      <Popover.Trigger className={`places-word flex items-center gap-1 ${PLACES_WORD} md:hidden`}>
        {present.name}
        <span aria-hidden className="text-[12px] text-muted">
          ▾
        </span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Places"
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-40 max-h-[80vh] w-64 max-w-[92vw] overflow-y-auto border border-line bg-raised py-1 text-ink shadow-[0_8px_28px_rgb(0_0_0/0.18)]"
        >
          <nav aria-label="Places" className="flex flex-col">
            {PLACES.map((place) => (
              <Popover.Close asChild key={place.path}>
                <span>
                  <PlaceLink
                    {...{ place, present }}
                    {...(home ? { home } : {})}
                    className="block px-4 py-2.5 text-[17px] aria-[current]:underline aria-[current]:decoration-2 aria-[current]:decoration-verdigris aria-[current]:underline-offset-4"
                  />
                </span>
              </Popover.Close>
            ))}
          </nav>
          {boards.length > 0 && (
            <nav aria-label="Boards that stand open" className="mt-1 flex flex-col border-line border-t pt-1">
              {boards.map(({ id, name }) => (
                <Popover.Close asChild key={id}>
                  <Link to={`/boards/${id}`} className="truncate px-4 py-2.5 font-serif text-[16px] italic">
                    {name}
                  </Link>
                </Popover.Close>
              ))}
            </nav>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The strip along the top, the same on every page: the places, the boards that stand open, and whether everything is saved. */
export function Lintel({
  front,
  children,
  home,
  status,
  troubles = [],
  isBare = false,
  at,
}: {
  /** The board in front: its tab is what is given here. */
  front?: { readonly id: string; readonly tab: ReactNode };
  /** What else of the page is named here. */
  children?: ReactNode;
  /** Where the word of the present place leads, if not to its page. */
  home?: string;
  /** What is coming in, and what for. */
  status?: ReactNode;
  /** What is wrong on this page alone. */
  troubles?: readonly Trouble[];
  /** Nothing is asked for yet: something else comes first. */
  isBare?: boolean;
  /** Path of the place to which this page belongs, where its own does not say so. */
  at?: string | undefined;
}) {
  const { pathname } = useLocation();
  const present = placeAt(at ?? pathname);
  const toHome = home ? { home } : {};
  return (
    <header className="relative z-30 flex h-9 shrink-0 items-center gap-4 border-line border-b bg-paper px-3.5 max-md:h-11 max-md:gap-2.5">
      <Link to="/boards" tabIndex={-1} className="font-serif text-[17px] tracking-[-0.01em] max-md:hidden">
        Miradero
      </Link>
      <span className="h-4 w-px bg-line max-md:hidden" aria-hidden />
      <nav aria-label="Places" className="flex h-full items-stretch gap-4 max-md:hidden">
        {PLACES.map((place) => (
          <PlaceLink
            key={place.path}
            {...{ place, present, isBare }}
            {...toHome}
            className="flex items-center border-transparent border-b-2 pt-0.5 aria-[current]:border-verdigris"
          />
        ))}
      </nav>
      {isBare ? (
        <span className={`${PLACES_WORD} md:hidden`}>{present.name}</span>
      ) : (
        <PlacesList present={present} {...toHome} />
      )}
      {children}
      {isBare ? <span className="flex-1" /> : <BoardTabs front={front} />}
      {status}
      <SavedMark />
      <TroubleTongue more={troubles} />
    </header>
  );
}

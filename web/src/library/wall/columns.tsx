import type { LibrarySort, Picture } from '@miradero/core/schema';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useEffect, useRef } from 'react';
import { Thumb } from '../../shell/index.ts';
import { isMore } from '../finding/use-selection.ts';
import { activeIn, hungId, type WallProps } from './wall.tsx';

const ROW = 44;
const DATE = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

interface Column {
  readonly title: string;
  readonly width: string;
  readonly sort?: LibrarySort;
  readonly cell: (picture: Picture) => ReactNode;
}

/** A figure of 0 to 1 as a line of that length, with its number for whoever listens. */
const line = (value: number | undefined) =>
  value === undefined ? (
    <span className="text-muted">–</span>
  ) : (
    <span role="img" aria-label={value.toFixed(2)} className="block h-1 w-16 bg-line">
      <span className="block h-full bg-ink" style={{ width: `${Math.min(1, value) * 100}%` }} />
    </span>
  );

const COLUMNS: readonly Column[] = [
  {
    title: 'Name',
    width: 'minmax(180px, 2fr)',
    sort: 'name',
    cell: ({ name }) => <span className="truncate font-serif text-[15px]">{name}</span>,
  },
  {
    title: 'Pixels',
    width: '106px',
    sort: 'pixels',
    cell: ({ width, height }) => (
      <span className="figures">
        {width} × {height}
      </span>
    ),
  },
  {
    title: 'Added',
    width: '100px',
    sort: 'added',
    cell: ({ addedAt }) => <span className="figures">{DATE.format(new Date(addedAt))}</span>,
  },
  {
    title: 'For',
    width: 'minmax(90px, 1fr)',
    cell: ({ purposes }) => (
      <span className="truncate">
        {[...new Set(purposes.map(({ purpose, isNot }) => (isNot ? `not ${purpose}` : purpose)))].join(', ')}
      </span>
    ),
  },
  {
    title: 'Tags',
    width: 'minmax(90px, 1fr)',
    cell: ({ tags }) => <span className="truncate">{tags.join(', ')}</span>,
  },
  {
    title: 'Made by',
    width: 'minmax(90px, 1fr)',
    cell: ({ source }) => <span className="truncate">{source.creator}</span>,
  },
  { title: 'Lightness', width: '84px', sort: 'lightness', cell: ({ measures }) => line(measures?.lightness) },
  {
    title: 'Sharpness',
    width: '84px',
    sort: 'sharpness',
    cell: ({ measures }) => line(measures ? 2 * measures.sharpness : undefined),
  },
  {
    title: 'Complicated',
    width: '92px',
    sort: 'complexity',
    cell: ({ measures }) => line(measures?.complexity),
  },
];
const TEMPLATE = `56px ${COLUMNS.map(({ width }) => width).join(' ')}`;

/** Every picture found as a list with columns; a press on a heading orders by it, another turns it round. */
export function Columns({
  sort,
  onSort,
  ...props
}: WallProps & { sort: LibrarySort; onSort: (sort: LibrarySort) => void }) {
  const { found, selection, onView } = props;
  const holder = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: found.total,
    getScrollElement: () => holder.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  props.across.current = 1;
  props.reveal.current = (index) => virtual.scrollToIndex(index);
  const shown = virtual.getVirtualItems();
  const first = shown[0]?.index ?? 0;
  const last = shown.at(-1)?.index ?? 0;
  useEffect(() => onView(first, last), [first, last, onView]);
  return (
    <div ref={holder} className="min-h-0 flex-1 overflow-auto bg-raised" data-testid="columns">
      <div
        className="sticky top-0 z-10 grid min-w-[1000px] gap-3 border-line border-b bg-paper px-5 text-[12px]"
        style={{ gridTemplateColumns: TEMPLATE }}
      >
        <span />
        {COLUMNS.map((column) =>
          column.sort ? (
            <button
              key={column.title}
              type="button"
              aria-pressed={sort === column.sort}
              className="py-1.5 text-left text-muted aria-pressed:text-ink aria-pressed:underline"
              onClick={() => onSort(column.sort!)}
            >
              {column.title}
            </button>
          ) : (
            <span key={column.title} className="py-1.5 text-muted">
              {column.title}
            </span>
          ),
        )}
      </div>
      <div
        role="listbox"
        aria-label="Pictures"
        aria-multiselectable="true"
        aria-activedescendant={activeIn(props)}
        tabIndex={0}
        className="hung-wall relative min-w-[1000px]"
        style={{ height: virtual.getTotalSize() }}
      >
        {shown.map((row) => {
          const picture = found.at(row.index);
          return (
            // biome-ignore lint/a11y/useKeyWithClickEvents: keys belong to the list as a whole
            <div
              key={row.key}
              id={picture && hungId(picture)}
              role="option"
              tabIndex={-1}
              aria-selected={picture !== undefined && selection.has(picture.id)}
              aria-label={picture?.name ?? 'on its way'}
              draggable={picture !== undefined}
              className="listed absolute left-0 grid w-full cursor-default items-center gap-3 border-line border-b px-5 text-[13px]"
              style={{ height: ROW, transform: `translateY(${row.start}px)`, gridTemplateColumns: TEMPLATE }}
              onClick={(event) =>
                selection.press(row.index, {
                  isMore: isMore(event),
                  isRange: event.shiftKey,
                })
              }
              onDoubleClick={() => picture && props.onOpen(picture)}
              onDragStart={(event) => picture && props.onDrag(picture, event)}
            >
              {picture && (
                <>
                  <span className="grid h-10 place-items-center bg-[#797979]">
                    <Thumb picture={picture} width={54} height={38} />
                  </span>
                  {COLUMNS.map((column) => (
                    <span key={column.title} className="flex min-w-0 items-center">
                      {column.cell(picture)}
                    </span>
                  ))}
                </>
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}

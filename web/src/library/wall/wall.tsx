import type { Picture, Tag } from '@miradero/core/schema';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type DragEvent, type RefObject, useEffect, useRef, useState } from 'react';
import { Thumb } from '../../shell/index.ts';
import { useBand } from '../finding/use-band.ts';
import type { Found } from '../finding/use-library.ts';
import { isMore, type Selection } from '../finding/use-selection.ts';

const GAP = 14;
/** Below this a name would be cut after a few letters. */
const NAMED_FROM = 120;
const NAME_HEIGHT = 40;
const MARGIN = 20;

export interface WallProps {
  readonly found: Found;
  readonly selection: Selection;
  /** CSS pixels a picture's longest side may take. */
  readonly size: number;
  readonly tags: readonly Tag[];
  readonly onOpen: (picture: Picture) => void;
  readonly onDrag: (picture: Picture, event: DragEvent) => void;
  readonly onView: (first: number, last: number) => void;
  /** How many stand beside each other, for keys. */
  readonly across: RefObject<number>;
  readonly reveal: RefObject<(index: number) => void>;
}

function Tags({ picture, tags }: { picture: Picture; tags: readonly Tag[] }) {
  const colours = picture.tags.flatMap((name) => tags.find((tag) => tag.name === name)?.colour ?? []);
  if (colours.length === 0) return null;
  return (
    <span className="flex shrink-0 gap-0.5" aria-hidden>
      {colours.slice(0, 4).map((colour) => (
        <span key={colour} className="size-2" style={{ background: colour }} />
      ))}
    </span>
  );
}

/** The element of a picture that hangs, named by `aria-activedescendant`. */
export const hungId = ({ id }: Picture): string => `hung-${id}`;

/** CSS pixels that a picture is high in a frame of `size`. */
const heightIn = ({ width, height }: Picture, size: number): number =>
  Math.ceil(height * Math.min(size / width, size / height));

function Hung({
  picture,
  index,
  frame,
  props,
}: {
  picture: Picture;
  index: number;
  /** Height of what it hangs in, CSS pixels. */
  frame: number;
  props: WallProps;
}) {
  const { selection, size, tags } = props;
  const isSelected = selection.has(picture.id);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: keys belong to the wall as a whole
    <div
      id={hungId(picture)}
      role="option"
      tabIndex={-1}
      aria-selected={isSelected}
      aria-label={picture.name}
      data-index={index}
      draggable
      className={`hung flex cursor-default flex-col ${isSelected ? 'is-selected' : ''}`}
      style={{ width: size }}
      onClick={(event) => selection.press(index, { isMore: isMore(event), isRange: event.shiftKey })}
      onDoubleClick={() => props.onOpen(picture)}
      onDragStart={(event) => props.onDrag(picture, event)}
    >
      <span className="grid items-end justify-items-center" style={{ height: frame }}>
        <span className="hung-frame">
          <Thumb picture={picture} width={size} height={size} />
        </span>
      </span>
      {size >= NAMED_FROM && (
        <span className="flex items-baseline gap-1.5 pt-1.5" style={{ height: NAME_HEIGHT }}>
          <Tags picture={picture} tags={tags} />
          <span className="line-clamp-2 min-w-0 flex-1 text-center font-serif text-[13.5px] text-black leading-[1.2]">
            {picture.name}
          </span>
          {picture.pile && <span className="shrink-0 text-[12px] text-black italic">{picture.pile}</span>}
        </span>
      )}
    </div>
  );
}

/** The element of the picture on which the keyboard stands, while it stands on one. */
export function activeIn({ found, selection }: WallProps): string | undefined {
  const picture = selection.pictures.length > 0 ? found.at(selection.focus) : undefined;
  return picture && hungId(picture);
}

/** Every picture found, hung side by side on neutral grey; only what is in view is there. */
export function Wall(props: WallProps) {
  const { found, size, onView } = props;
  const holder = useRef<HTMLDivElement>(null);
  const { band, hand } = useBand(found, props.selection);
  const [width, setWidth] = useState(1000);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    observer.observe(holder.current!);
    return () => observer.disconnect();
  }, []);
  const across = Math.max(1, Math.floor((width - 2 * MARGIN + GAP) / (size + GAP)));
  props.across.current = across;
  // What is left of the width goes between them, so that both edges are straight.
  const gap = across > 1 ? Math.floor((width - 2 * MARGIN - across * size) / (across - 1)) : GAP;
  const rows = Math.ceil(found.total / across);
  const rowHeight = size + GAP + (size >= NAMED_FROM ? NAME_HEIGHT : 0);
  // Pictures stand on one line: above the first row there is no more room than the highest of them takes.
  const ofFirst = Array.from({ length: Math.min(across, found.total) }, (_, index) => found.at(index));
  const firstFrame = Math.max(1, ...ofFirst.map((one) => (one ? heightIn(one, size) : size)));
  const virtual = useVirtualizer({
    count: rows,
    getScrollElement: () => holder.current,
    estimateSize: (row) => (row === 0 ? rowHeight - size + firstFrame : rowHeight),
    overscan: 3,
    paddingStart: MARGIN,
    paddingEnd: MARGIN,
  });
  useEffect(() => virtual.measure(), [rowHeight, firstFrame, virtual]);
  props.reveal.current = (index) => virtual.scrollToIndex(Math.floor(index / across));
  const shown = virtual.getVirtualItems();
  const first = (shown[0]?.index ?? 0) * across;
  const last = ((shown.at(-1)?.index ?? 0) + 1) * across;
  useEffect(() => onView(first, last), [first, last, onView]);
  return (
    <div
      ref={holder}
      role="listbox"
      aria-label="Pictures"
      aria-multiselectable="true"
      aria-activedescendant={activeIn(props)}
      tabIndex={0}
      data-testid="wall"
      {...hand}
      className="hung-wall min-h-0 flex-1 overflow-y-auto bg-[#797979]"
    >
      {band && (
        <div
          aria-hidden
          className="band pointer-events-none fixed z-10"
          style={{ left: band.x, top: band.y, width: band.width, height: band.height }}
        />
      )}
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {shown.map((row) => (
          <div
            key={row.key}
            role="presentation"
            className="absolute left-0 flex"
            style={{ transform: `translateY(${row.start}px)`, paddingLeft: MARGIN, gap }}
          >
            {Array.from({ length: across }, (_, column) => row.index * across + column)
              .filter((index) => index < found.total)
              .map((index) => {
                const picture = found.at(index);
                return picture ? (
                  <Hung
                    key={picture.id}
                    picture={picture}
                    index={index}
                    frame={row.index === 0 ? firstFrame : size}
                    props={props}
                  />
                ) : (
                  <span
                    key={index}
                    aria-hidden
                    className="bg-[#707070]"
                    style={{ width: size, height: row.index === 0 ? firstFrame : size }}
                  />
                );
              })}
          </div>
        ))}
      </div>
    </div>
  );
}

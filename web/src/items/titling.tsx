import { addPoints, scalePoint, turnPoint } from '@miradero/core/geometry';
import { heightOf, type Item } from '@miradero/core/items';
import { createElement, useState } from 'react';
import type { Desk, Tool } from '../desk/index.ts';
import type { StageView } from '../stage/index.ts';
import { useStore } from '../state/index.ts';
import { type Gesture, newGesture } from '../sync/index.ts';
import { SELECT } from '../tools/index.ts';

/** Titles are short: what is longer is a note. */
const MOST = 200;
/** Type of the field, CSS pixels: as it stands where that can be read. */
const LEAST_PX = 14;
const MOST_PX = 44;

type Titled = Extract<Item, { readonly title: string }>;

const titledOn = (desk: Desk, id: string): Titled | undefined => {
  const item = desk.session.items.get(id);
  return item && 'title' in item && !item.removed ? item : undefined;
};

function TitleField({
  desk,
  view,
  id,
  gesture,
}: {
  desk: Desk;
  view: StageView;
  id: string;
  gesture: Gesture;
}) {
  useStore(view.store);
  const item = useStore(desk.session.store, () => titledOn(desk, id));
  const [title, setTitle] = useState(item?.title ?? '');
  if (!item) return null;
  const { camera, holderSize } = view;
  const corner = turnPoint({ x: -item.width / 2, y: -heightOf(item) / 2 }, view.isUpright ? item.turn : 0);
  const at = addPoints(view.seenAt(item.centre), scalePoint(corner, camera.scale));
  const size = Math.min(
    MOST_PX,
    Math.max(LEAST_PX, ('titleSize' in item ? item.titleSize : LEAST_PX) * camera.scale),
  );
  const width = Math.max(180, Math.min(item.width * camera.scale, holderSize.width - 16));
  const end = () => {
    if (title !== item.title) desk.session.commit([{ item: id, set: { title } }], gesture);
    desk.leaveTool();
  };
  return (
    <input
      // biome-ignore lint/a11y/noAutofocus: it opens because the person asked to name this
      autoFocus
      aria-label="Title"
      data-on-board
      className="absolute top-0 left-0 z-10 bg-[#fafaf9] px-2 font-serif text-[#1d1d1b] outline-2 outline-verdigris"
      style={{
        transform: `translate(${Math.max(8, Math.min(at.x, holderSize.width - width - 8))}px, ${Math.max(8, at.y)}px)`,
        ...{ width, fontSize: size, lineHeight: 1.5 },
      }}
      value={title}
      maxLength={MOST}
      placeholder="a title"
      onFocus={(event) => event.target.select()}
      onChange={(event) => setTitle(event.target.value)}
      onBlur={end}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key !== 'Enter' && event.key !== 'Escape') return;
        event.preventDefault();
        view.focus();
      }}
    />
  );
}

/** Gives something a title where it stands. @param gesture - what it belongs to: what was just made is taken back with its title */
export function startTitling(desk: Desk, id: string, gesture = newGesture()): void {
  const tool: Tool = {
    id: 'title',
    press: SELECT.press,
    hover: (...where) => SELECT.hover?.(...where),
    offer: () => ({ title: 'Title', ids: [], hint: 'Enter keeps it.' }),
    Surface: (where) => createElement(TitleField, { ...where, id, gesture }),
  };
  desk.take(tool, [id]);
}

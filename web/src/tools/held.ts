import { fadeBy } from '@miradero/core/board';
import type { Item, Operation } from '@miradero/core/schema';
import { type Desk, type HeldAction, NOTHING_HERE, type Tool } from '../desk/index.ts';
import { turning } from './drags.ts';
import { drawSelecting } from './draw-selection.ts';
import { TURN_CURSOR, ZOOM_CURSOR } from './handles.ts';
import { panning, zooming } from './look.ts';

const hint = (words: string) => () => ({ title: '', ids: [], hint: words });

const PAN: Tool = {
  id: 'pan',
  press: panning,
  hover: () => 'grab',
  overlay: (seat, context) => drawSelecting(context, seat),
  offer: hint('Drag to move the view.'),
  stageClass: 'is-panning',
};

const ZOOM: Tool = {
  id: 'zoom',
  press: (seat, press) => zooming(seat, press),
  hover: () => ZOOM_CURSOR,
  overlay: (seat, context) => drawSelecting(context, seat),
  offer: hint('Drag right or up to come closer.'),
};

const TURN: Tool = {
  id: 'turn',
  press(seat, { point }) {
    const items = seat.desk.targets;
    return items.length === 0 ? undefined : turning(seat, items, point);
  },
  hover: () => TURN_CURSOR,
  overlay: (seat, context) => drawSelecting(context, seat),
  offer: hint('Drag around the picture; Shift keeps to steps of 15°.'),
};

/** A drag of so many pixels goes from nothing to full, CSS pixels. */
const FADE_PX = 240;

/** Opacity under a turning wheel, from where each item began. */
class Fading implements Tool {
  readonly id = 'fade';
  #items: readonly Item[] | undefined;
  #delta = 0;

  /** A drag upward makes it stronger: a pen and a finger have no wheel. */
  press: Tool['press'] = ({ desk }, { point }) => {
    const items = desk.targets;
    if (items.length === 0) return undefined;
    let operations: Operation[] = [];
    return {
      move(to) {
        desk.useHeld();
        operations = fadeBy(items, (point.y - to.y) / FADE_PX);
        desk.session.preview(operations);
      },
      end(isClick) {
        if (isClick) desk.session.preview([]);
        else desk.session.commit(operations);
      },
      cancel: () => desk.session.preview([]),
    };
  };
  overlay: NonNullable<Tool['overlay']> = (seat, context) => drawSelecting(context, seat);
  offer = hint('Roll the wheel, or drag up and down.');

  /** One notch of the wheel is about a tenth. */
  wheel: NonNullable<Tool['wheel']> = ({ desk }, factor) => {
    desk.useHeld();
    this.#items ??= desk.targets;
    this.#delta += Math.log(factor) / 2;
    desk.session.preview(this.#operations());
  };

  /** The key was let go: what was previewed is made. */
  leave = (desk: Desk): void => {
    if (!this.#items) return;
    const operations = this.#operations();
    this.#items = undefined;
    this.#delta = 0;
    desk.session.commit(operations);
  };

  #operations = (): Operation[] => fadeBy(this.#items!, this.#delta);
}

/** Tools that are there while their key is held. */
export const HELD_TOOLS: Readonly<Record<HeldAction, Tool>> = {
  pan: PAN,
  zoom: ZOOM,
  turn: TURN,
  fade: new Fading(),
};

/** A tool of a held key that stays taken without it, until it is left: by a tap of the key, or its word. */
const kept = (tool: Tool, title: string, ids: readonly string[]): Tool => ({
  ...tool,
  offer: (desk) => ({ ...tool.offer(desk), title, ids: [...ids, 'escape'] }),
  confirm: (desk) => desk.leaveTool(),
  isOver: ({ selection }) => selection.size === 0,
});
const KEPT = {
  turn: kept(TURN, 'Turn', ['quarter-left', 'quarter-right', 'degree-left', 'degree-right']),
  fade: kept(HELD_TOOLS.fade, 'Fade', ['fainter', 'stronger']),
} as const;

/** Takes such a tool for what keys act on; pressed again, it is left. */
export function keep(desk: Desk, action: keyof typeof KEPT): void {
  const isTaken = desk.tool === KEPT[action];
  desk.leaveTool();
  if (isTaken) return;
  const ids = desk.targets.map(({ id }) => id);
  if (ids.length > 0) desk.take(KEPT[action], ids);
  else desk.say(`Nothing to act on: ${action}.`, [NOTHING_HERE]);
}

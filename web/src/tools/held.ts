import { fadeBy } from '@miradero/core/board';
import type { Item, Operation } from '@miradero/core/schema';
import type { Desk, HeldAction, Tool } from '../desk/index.ts';
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

/** Opacity under a turning wheel, from where each item began. */
class Fading implements Tool {
  readonly id = 'fade';
  #items: readonly Item[] | undefined;
  #delta = 0;

  press = () => undefined;
  overlay: NonNullable<Tool['overlay']> = (seat, context) => drawSelecting(context, seat);
  offer = hint('Roll the wheel.');

  /** One notch of the wheel is about a tenth. */
  wheel: NonNullable<Tool['wheel']> = ({ desk }, factor) => {
    desk.useHeld();
    this.#items ??= desk.targets;
    this.#delta += Math.log(factor) / 2;
    desk.session.preview(this.#operations());
  };

  /** The key was let go: what was previewed is made. */
  leave(desk: Desk): void {
    if (!this.#items) return;
    const operations = this.#operations();
    this.#items = undefined;
    this.#delta = 0;
    desk.session.commit(operations);
  }

  #operations = (): Operation[] => fadeBy(this.#items!, this.#delta);
}

/** Tools that are there while their key is held. */
export const HELD_TOOLS: Readonly<Record<HeldAction, Tool>> = {
  pan: PAN,
  zoom: ZOOM,
  turn: TURN,
  fade: new Fading(),
};

import { isPlacement, type Placement, type TrimSide, trimByStep, trimTo, WHOLE } from '@miradero/core/items';
import { type Desk, NOTHING_HERE, type Tool } from '../desk/index.ts';
import type { StageView } from '../stage/index.ts';
import { drawTrim } from './draw-trim.ts';
import { cursorFor, gripAt, trimGrips } from './handles.ts';
import { trimming } from './trim-drags.ts';
import { TrimGhost } from './trim-ghost.ts';

/** Of a side of the picture, at each press of an arrow. */
const TRIM_STEP = 0.02;
/** An arrow to the right moves the left edge. */
const ACROSS: Readonly<Record<TrimSide, TrimSide>> = { left: 'right', right: 'left', up: 'down', down: 'up' };

/** Trims one picture: its edges move, or a drag across it marks what is kept. */
class Trimming implements Tool {
  readonly id = 'trim';
  readonly stageClass = 'is-trimming';
  readonly #placement: string;
  /** Each stage shows the whole picture as sharp as it needs it. */
  readonly #ghosts = new Map<StageView, TrimGhost>();

  constructor(placement: string) {
    this.#placement = placement;
  }

  #shown(desk: Desk): Placement | undefined {
    const item = desk.session.shown(this.#placement);
    return item && isPlacement(item) && !item.removed ? item : undefined;
  }

  press: Tool['press'] = (seat, press) => {
    const placement = this.#shown(seat.desk);
    if (!placement) return undefined;
    const grip = gripAt(trimGrips(placement), seat.view, press.point, press.pointerType);
    return trimming(seat, placement, press, grip);
  };

  hover: NonNullable<Tool['hover']> = ({ desk, view }, point, pointerType) => {
    const placement = this.#shown(desk);
    const grip = placement && gripAt(trimGrips(placement), view, point, pointerType);
    return grip && cursorFor(grip);
  };

  overlay: NonNullable<Tool['overlay']> = (seat, context) => {
    const placement = this.#shown(seat.desk);
    if (!placement) return;
    let ghost = this.#ghosts.get(seat.view);
    if (!ghost) {
      ghost = new TrimGhost(seat.view);
      this.#ghosts.set(seat.view, ghost);
    }
    drawTrim(context, seat, placement, ghost);
  };

  offer = () => ({
    title: 'Trim',
    ids: ['untrim', 'escape'],
    hint: 'Drag across the picture, or an edge; arrows cut off, with Shift they give back.',
  });

  isOver = (desk: Desk): boolean => !desk.selection.has(this.#placement) || this.#shown(desk) === undefined;

  /** An arrow cuts off from the side it comes from; with Shift it gives back there. */
  arrow(desk: Desk, to: TrimSide, isFar: boolean): void {
    const placement = this.#shown(desk);
    if (!placement) return;
    const trim = trimByStep(placement, ACROSS[to], isFar ? -TRIM_STEP : TRIM_STEP);
    desk.session.commit([trimTo(placement, trim)]);
  }

  confirm(desk: Desk): void {
    desk.leaveTool();
  }

  leave(): void {
    for (const ghost of this.#ghosts.values()) ghost.close();
    this.#ghosts.clear();
  }
}

/** Trims the picture that keys act on; pressed again, it is left. */
export function trim(desk: Desk): void {
  if (desk.tool?.id === 'trim') {
    desk.leaveTool();
    return;
  }
  const placement = desk.targets.find(isPlacement);
  if (placement) desk.take(new Trimming(placement.id), [placement.id]);
  else desk.say('Nothing to trim: only pictures are.', [NOTHING_HERE]);
}

export function untrim(desk: Desk): void {
  const placements = desk.targets.filter(isPlacement);
  if (placements.length === 0) desk.say('Nothing to act on: only pictures are trimmed.', [NOTHING_HERE]);
  else desk.session.commit(placements.map((placement) => trimTo(placement, WHOLE)));
}

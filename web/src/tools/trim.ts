import {
  BAY_SHAPES,
  type BayShape,
  frameOfTrim,
  isPlacement,
  leanBy,
  type Placement,
  shapeFrame,
  slideTrim,
  type TrimSide,
  trimByStep,
  trimTo,
  uncover,
} from '@miradero/core/items';
import { type Desk, NOTHING_HERE, type Tool } from '../desk/index.ts';
import type { StageView } from '../stage/index.ts';
import { drawTrim } from './draw-trim.ts';
import { cursorFor, gripAt, trimGrips } from './handles.ts';
import { type TrimSettings, type TrimWay, trimming } from './trim-drags.ts';
import { TrimGhost } from './trim-ghost.ts';

/** Of a side of the picture, at each press of an arrow. */
const TRIM_STEP = 0.02;
/** Degrees at each press of an arrow, and with Shift. */
const LEAN_STEP = { small: 0.5, large: 5 } as const;
/** CSS pixels at each press of an arrow, and with Shift. */
const SLIDE_PX = { small: 2, large: 20 } as const;
/** An arrow to the right moves the left edge. */
const ACROSS: Readonly<Record<TrimSide, TrimSide>> = { left: 'right', right: 'left', up: 'down', down: 'up' };
const TOWARDS = { left: [-1, 0], right: [1, 0], up: [0, -1], down: [0, 1] } as const;

const HINTS: Readonly<Record<TrimWay, string>> = {
  frame: 'Drag across the picture, or an edge; arrows cut off, with Shift they give back.',
  ellipse: 'Drag across the picture: what lies in the ellipse stays.',
  lasso: 'Draw around what is to stay.',
  slide: 'Drag the picture under its frame; arrows do it in small steps.',
  straighten: 'Draw along what should be level or upright; arrows turn by half a degree.',
};
const WAY_IDS: Readonly<Record<TrimWay, string>> = {
  frame: 'trim-frame',
  ellipse: 'trim-ellipse',
  lasso: 'trim-lasso',
  slide: 'trim-slide',
  straighten: 'straighten',
};

/** Trims one picture. Its frame is grasped by its edges, whatever way a drag across it has. */
class Trimming implements Tool, TrimSettings {
  readonly id = 'trim';
  readonly stageClass = 'is-trimming';
  readonly way: TrimWay;
  readonly aspect: number | undefined;
  readonly placement: string;
  /** Each stage shows the whole picture as sharp as it needs it. */
  readonly #ghosts = new Map<StageView, TrimGhost>();

  constructor(placement: string, way: TrimWay, aspect: number | undefined) {
    this.placement = placement;
    this.way = way;
    this.aspect = aspect;
  }

  shown(desk: Desk): Placement | undefined {
    const item = desk.session.shown(this.placement);
    return item && isPlacement(item) && !item.removed ? item : undefined;
  }

  press: Tool['press'] = (seat, press) => {
    const placement = this.shown(seat.desk);
    if (!placement) return undefined;
    const grip = gripAt(trimGrips(placement), seat.view, press.point, press.pointerType);
    return trimming(seat, placement, press, this, grip);
  };

  hover: NonNullable<Tool['hover']> = ({ desk, view }, point, pointerType) => {
    const placement = this.shown(desk);
    const grip = placement && gripAt(trimGrips(placement), view, point, pointerType);
    if (grip) return cursorFor(grip);
    return this.way === 'slide' ? 'grab' : undefined;
  };

  overlay: NonNullable<Tool['overlay']> = (seat, context) => {
    const placement = this.shown(seat.desk);
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
    ids: [
      ...Object.values(WAY_IDS).filter((id) => id !== WAY_IDS[this.way]),
      ...['aspect', 'untrim', 'escape'],
    ],
    hint: HINTS[this.way],
  });

  isOver = (desk: Desk): boolean => !desk.selection.has(this.placement) || this.shown(desk) === undefined;

  /** An arrow cuts off from the side it comes from, and with Shift gives back there; or it slides, or turns the picture. */
  arrow(desk: Desk, to: TrimSide, isFar: boolean): void {
    const placement = this.shown(desk);
    if (!placement) return;
    const [x, y] = TOWARDS[to];
    if (this.way === 'straighten') {
      const step = isFar ? LEAN_STEP.large : LEAN_STEP.small;
      desk.session.commit([leanBy(placement, (x || -y) * step)]);
    } else if (this.way === 'slide') {
      const step = (isFar ? SLIDE_PX.large : SLIDE_PX.small) / (desk.view?.camera.scale ?? 1);
      desk.session.commit([slideTrim(placement, { x: x * step, y: y * step })]);
    } else {
      const frame = trimByStep(placement, ACROSS[to], isFar ? -TRIM_STEP : TRIM_STEP);
      desk.session.commit([trimTo(placement, frame)]);
    }
  }

  confirm(desk: Desk): void {
    desk.leaveTool();
  }

  leave(): void {
    for (const ghost of this.#ghosts.values()) ghost.close();
    this.#ghosts.clear();
  }
}

const trimmingOn = (desk: Desk): Trimming | undefined =>
  desk.tool instanceof Trimming ? desk.tool : undefined;

/** Trims the picture that keys act on in a way; chosen again, the tool is left. */
export function trimBy(desk: Desk, way: TrimWay): void {
  const now = trimmingOn(desk);
  if (now?.way === way) desk.leaveTool();
  else if (now) desk.take(new Trimming(now.placement, way, now.aspect), [now.placement]);
  else {
    const placement = desk.targets.find(isPlacement);
    if (placement) desk.take(new Trimming(placement.id, way, undefined), [placement.id]);
    else desk.say('Nothing to trim: only pictures are.', [NOTHING_HERE]);
  }
}

/** The key of trimming: it takes the tool, and leaves it whatever way it has. */
export function trim(desk: Desk): void {
  if (trimmingOn(desk)) desk.leaveTool();
  else trimBy(desk, 'frame');
}

/** Frames may keep an aspect: the picture's own, that of a print or a sheet, wide or high as the frame is now; or none. */
export type TrimAspect = 'free' | 'own' | BayShape;

/** Gives what is trimmed, or the pictures that keys act on, an aspect; what is trimmed keeps it from then on. */
export function keepAspect(desk: Desk, name: TrimAspect): void {
  const now = trimmingOn(desk);
  const trimmed = now?.shown(desk);
  const placements = trimmed ? [trimmed] : desk.targets.filter(isPlacement);
  if (placements.length === 0) {
    desk.say('Nothing to trim: only pictures are.', [NOTHING_HERE]);
    return;
  }
  const aspectFor = ({ pictureWidth, pictureHeight, trim: { width, height } }: Placement) => {
    if (name === 'free') return undefined;
    if (name === 'own') return pictureWidth / pictureHeight;
    const isHigh = height * pictureHeight > width * pictureWidth;
    return isHigh ? 1 / BAY_SHAPES[name] : BAY_SHAPES[name];
  };
  desk.session.commit(
    placements.flatMap((one) => {
      const aspect = aspectFor(one);
      return aspect === undefined ? [] : [trimTo(one, shapeFrame(one, frameOfTrim(one), aspect))];
    }),
  );
  if (now && trimmed) desk.take(new Trimming(now.placement, now.way, aspectFor(trimmed)), [now.placement]);
}

export function untrim(desk: Desk): void {
  const placements = desk.targets.filter(isPlacement);
  if (placements.length === 0) desk.say('Nothing to act on: only pictures are trimmed.', [NOTHING_HERE]);
  else desk.session.commit(placements.map(uncover));
}

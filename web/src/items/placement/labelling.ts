import type { Point } from '@miradero/core/geometry';
import { applyAffine, invertAffine, rectangleBetween } from '@miradero/core/geometry';
import { isPlacement, type Placement, pictureToBoard } from '@miradero/core/items';
import { regionBetween } from '@miradero/core/picture';
import { MOST_PURPOSES, type Purpose, type Region } from '@miradero/core/schema';
import { createElement } from 'react';
import { type Desk, NOTHING_HERE, type Tool } from '../../desk/index.ts';
import { createStore } from '../../state/index.ts';
import { drawMarks, drawSelection } from '../../tools/index.ts';
import { LabelForm } from './label-form.tsx';

/** Parts and points of a picture with what is said of them. */
export type Label = Purpose & { readonly region: Region };
export const labelsOf = (purposes: readonly Purpose[]): Label[] =>
  purposes.filter((one): one is Label => one.region !== null);

/** What stands beside a label, in words: "rivets like this", "not: the paint". */
export function labelWords({ word, purpose, isNot }: Purpose): string {
  const said = word?.trim() || purpose;
  return isNot ? `not: ${said}` : said;
}

/** Lets a part or a point of a picture be marked, and asks for its word. */
class Labelling implements Tool {
  readonly id = 'label-picture';
  readonly #placement: string;
  /** What was marked and waits for its word. */
  readonly marked = createStore<{ readonly region: Region | undefined }>(() => ({ region: undefined }));

  constructor(placement: string) {
    this.#placement = placement;
  }

  placement(desk: Desk): Placement | undefined {
    const item = desk.session.items.get(this.#placement);
    return item && isPlacement(item) && !item.removed ? item : undefined;
  }

  press: Tool['press'] = (seat, { point: start }) => {
    const placement = this.placement(seat.desk);
    if (!placement) return undefined;
    const toPicture = invertAffine(pictureToBoard(placement));
    const at = (point: Point) => applyAffine(toPicture, seat.view.toBoard(point));
    const from = at(start);
    const isWithin = from.x >= 0 && from.y >= 0 && from.x <= 1 && from.y <= 1;
    let region: Region | undefined;
    return {
      move: (point) => {
        region = regionBetween(from, at(point));
        seat.mark({ band: rectangleBetween(start, point) });
      },
      end: (isClick) => {
        seat.mark({});
        if (isClick && !isWithin) seat.desk.leaveTool();
        else {
          const point = { x: clamp(from.x), y: clamp(from.y), width: 0, height: 0 };
          this.marked.setState({ region: isClick ? point : region });
        }
      },
      cancel: () => seat.mark({}),
    };
  };

  hover = () => 'crosshair';
  overlay: NonNullable<Tool['overlay']> = (seat, context) => {
    drawSelection(context, seat.view, seat.desk.selected);
    drawMarks(context, seat);
  };
  offer = () => ({
    title: 'Label',
    ids: ['escape'],
    hint: 'Drag over a part of the picture, or press a point of it.',
  });
  isOver = (desk: Desk): boolean => !desk.selection.has(this.#placement) || !this.placement(desk);

  Surface: NonNullable<Tool['Surface']> = ({ desk, view }) =>
    createElement(LabelForm, {
      ...{ view, marked: this.marked },
      placementOf: () => this.placement(desk),
      onKeep: (said: Omit<Purpose, 'region'>) => this.#keep(desk, said),
      onLeave: () => desk.tool === this && desk.leaveTool(),
    });

  #keep(desk: Desk, said: Omit<Purpose, 'region'>): void {
    const { region } = this.marked.getState();
    const placement = this.placement(desk);
    if (!region || !placement) return;
    const purposes = desk.sync.shelf.get(placement.picture)?.picture?.purposes ?? [];
    desk.leaveTool();
    if (purposes.length >= MOST_PURPOSES) {
      desk.say(`A picture has ${MOST_PURPOSES} labels at most.`, ['Forget one on its wall label first.']);
      return;
    }
    desk.patchPicture(placement.picture, { purposes: [...purposes, { ...said, region }] });
  }
}

const clamp = (share: number): number => Math.round(Math.min(1, Math.max(0, share)) * 1e4) / 1e4;

/** Labels a part of the picture that keys act on. */
export function labelPicture(desk: Desk): void {
  const placement = desk.targets.find(isPlacement);
  const known = placement && desk.sync.shelf.get(placement.picture)?.picture;
  if (!placement) desk.say('Nothing to label: only pictures are.', [NOTHING_HERE]);
  else if (!known) desk.say('This picture is still on its way; label it in a moment.');
  else desk.take(new Labelling(placement.id), [placement.id]);
}

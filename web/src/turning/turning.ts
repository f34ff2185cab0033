import { frameMatrix } from '@miradero/core/board';
import { applyAffine, compose, invertAffine, type Point } from '@miradero/core/geometry';
import { isPlacement, type Placement, pictureToFrame } from '@miradero/core/items';
import { litFrom, type ModelView, nearerBy, pushedBy, turnedBy, turnedTo } from '@miradero/core/model';
import type { Desk, Seat, Tool } from '../desk/index.ts';
import type { Drag, Press, StageView } from '../stage/index.ts';
import { modelsOn } from './models-on-desk.ts';
import { type TurningDrag, turningSettings } from './settings.ts';
import { takeView } from './taking.ts';
import { TurningCard } from './turning-card.tsx';

/** An arrow turns by so much; with Shift. */
const STEP_DEG = 5;
const FAR_DEG = 45;

const ARROWS = { left: [1, 0], right: [-1, 0], up: [0, 1], down: [0, -1] } as const;

/** A model is turned with the hand, and lit. */
class Turning implements Tool {
  readonly id = 'turn-model';
  readonly hidesValues = true;
  Surface: NonNullable<Tool['Surface']> = TurningCard;
  readonly #on: string;

  constructor(on: string) {
    this.#on = on;
  }

  offer = () => ({
    title: 'Model',
    ids: ['take-view', 'escape'],
    hint: 'A drag turns, with Shift lights, with Alt pushes; the wheel comes nearer.',
  });

  #item({ session }: Desk): Placement | undefined {
    const item = session.items.get(this.#on);
    return item && isPlacement(item) && !item.removed ? item : undefined;
  }

  #alter(desk: Desk, how: (view: ModelView) => ModelView): void {
    const item = this.#item(desk);
    const view = item && modelsOn(desk).viewOf(item);
    if (item && view) modelsOn(desk).set(item, how(view));
  }

  isOver = (desk: Desk): boolean => !desk.selection.has(this.#on);

  hover = (): string => 'grab';

  /** What was not turned after all is its poster again. */
  leave = (desk: Desk): void => modelsOn(desk).end(this.#on);

  arrow(desk: Desk, to: 'left' | 'right' | 'up' | 'down', isFar: boolean): void {
    const [round, up] = ARROWS[to];
    const by = isFar ? FAR_DEG : STEP_DEG;
    this.#alter(desk, (view) =>
      turnedTo(view, { azimuthDeg: view.azimuthDeg + round * by, elevationDeg: view.elevationDeg + up * by }),
    );
  }

  confirm(desk: Desk): void {
    const item = this.#item(desk);
    if (item) void takeView(desk, item);
  }

  wheel({ desk }: Seat, factor: number): void {
    this.#alter(desk, (view) => nearerBy(view, factor));
  }

  press({ desk, view }: Seat, { point }: Press): Drag | undefined {
    const item = this.#item(desk);
    const models = modelsOn(desk);
    if (!item || !models.viewOf(item)) return undefined;
    const inPicture = pointsIn(item, view);
    const begun = models.viewOf(item)!;
    let from = begun;
    let start = inPicture(point);
    let last = start;
    let doing: TurningDrag | undefined;
    models.hold(item.id);
    return {
      move(to, { isShift, isAlt }) {
        const does = isShift ? 'light' : isAlt ? 'aside' : turningSettings.now.drag;
        if (does !== doing) {
          // From here on it does something else; what was done stays.
          doing = does;
          from = models.viewOf(item) ?? from;
          start = last;
        }
        last = inPicture(to);
        const [right, down] = [last.x - start.x, last.y - start.y];
        if (does === 'light') models.set(item, litFrom(from, last.x * 2, last.y * 2));
        else models.set(item, does === 'aside' ? pushedBy(from, right, down) : turnedBy(from, right, down));
      },
      end: () => models.hold(undefined),
      cancel() {
        models.hold(undefined);
        models.set(item, begun);
      },
    };
  }
}

/** Takes points of a view into a placement's picture, however it stands: from its middle, in its shorter sides. */
function pointsIn(item: Placement, view: StageView) {
  const { pictureWidth, pictureHeight } = item;
  const shorter = Math.min(pictureWidth, pictureHeight);
  const toPicture = invertAffine(compose(frameMatrix(item), pictureToFrame(item)));
  return (point: Point): Point => {
    const { x, y } = applyAffine(toPicture, view.toBoard(point));
    return { x: ((x - 0.5) * pictureWidth) / shorter, y: ((y - 0.5) * pictureHeight) / shorter };
  };
}

const modelsAmong = (desk: Desk, items: readonly { readonly kind: string }[]): Placement[] =>
  items.filter((item): item is Placement => isPlacement(item) && modelsOn(desk).isModel(item));

/** Turns the model that is selected. */
export function turnModel(desk: Desk): void {
  const found = modelsAmong(desk, desk.targets);
  const [only] = found;
  if (!only || found.length > 1) {
    desk.say(only ? 'Several of these are models.' : 'No model is selected.', [
      only ? 'Select one of them.' : 'Bring one in as GLB, STL or OBJ, and select it.',
    ]);
    return;
  }
  modelsOn(desk).begin(only);
  desk.take(new Turning(only.id), [only.id]);
}

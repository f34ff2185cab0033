import type { Point } from '@miradero/core/geometry';
import type { Placement } from '@miradero/core/items';
import { DrawingAround } from '../colour/index.ts';
import type { Desk, Seat, Tool } from '../desk/index.ts';
import { pixelPool } from '../pixels/index.ts';
import type { Press } from '../stage/index.ts';
import { createStore, type Readable } from '../state/index.ts';
import { LOOK } from '../tools/index.ts';
import { AskingBySteps, placementOn, sourceOfPlaced } from './asking.ts';
import { FormCard } from './form-card.tsx';
import type { Forming, FormShown } from './study.ts';

/** Three things are computed of it: the small copy is smaller than others', so that they are seen at once. */
const SOON_SIDES = [256];
const NOTHING: FormShown = { read: undefined, isExact: false, trouble: undefined };

/** Reads a form that is drawn around: how it holds when it is small, stands off from its ground, and what in it is subtle. */
class FormStudying implements Tool, Forming {
  readonly id = 'form-study';
  readonly double = LOOK.double!;
  readonly #desk: Desk;
  readonly #store = createStore<FormShown>(() => NOTHING);
  readonly #asking = new AskingBySteps(SOON_SIDES);
  readonly #drawing = new DrawingAround((placement, outline) => void this.#study(placement, outline));
  #placement: string | undefined;

  constructor(desk: Desk) {
    this.#desk = desk;
  }
  get store(): Readable<FormShown> {
    return this.#store;
  }
  Surface: NonNullable<Tool['Surface']> = FormCard;
  offer = () => ({ title: 'Form and ground', ids: ['escape'], hint: 'Draw around a form on a picture.' });
  hover = (): string => 'crosshair';
  leave(): void {
    this.#asking.stop();
  }
  press(seat: Seat, press: Press): ReturnType<Tool['press']> {
    return this.#drawing.press(this, seat, press);
  }
  overlay(_: Seat, context: CanvasRenderingContext2D): void {
    this.#drawing.draw(context);
  }

  async #study(placement: Placement, outline: readonly Point[] | undefined): Promise<void> {
    this.#asking.stop();
    this.#store.setState(NOTHING);
    if (!outline) return;
    this.#placement = placement.id;
    await this.#asking.ask(
      async (side, signal) => {
        const source = sourceOfPlaced(this.#desk, placementOn(this.#desk, this.#placement));
        return pixelPool().ask('form', { source, outline, side }, { signal });
      },
      (read, isExact) => this.#store.setState({ read, isExact, trouble: undefined }),
      (trouble) => this.#store.setState({ trouble }),
    );
  }
}

export const studyForm = (desk: Desk): void => desk.take(new FormStudying(desk));

import type { Point } from '@miradero/core/geometry';
import { isPlacement, type Placement } from '@miradero/core/items';
import { DrawingAround } from '../colour/index.ts';
import { type Desk, NOTHING_HERE, type Seat, type Tool } from '../desk/index.ts';
import { bring } from '../gather/index.ts';
import { pixelPool, type StudyAsked, type StudyRead } from '../pixels/index.ts';
import { saveFile } from '../shell/index.ts';
import type { Press } from '../stage/index.ts';
import { createStore, type Readable } from '../state/index.ts';
import { LOOK } from '../tools/index.ts';
import { AskingBySteps, placementOn, sourceOfPlaced } from './asking.ts';
import type { Studying, StudyShown } from './study.ts';
import { StudyCard } from './study-card.tsx';

/** A glimpse, then something to look at until all pixels are counted. */
const SOON_SIDES = [256, 1_024];
/** The study that becomes a picture has this longest side at most. */
const PICTURE_SIDE = 2_048;

/** Puts one picture, or what is drawn around on it, into few values; as long as it is taken one can look around. */
class ValueStudying implements Tool, Studying {
  readonly id = 'value-study';
  readonly double = LOOK.double!;
  readonly placement: string;
  readonly #desk: Desk;
  readonly #store = createStore<StudyShown>(() => ({
    wish: { steps: 4, borders: 'equal', island: 0.0005, edges: 0.002 },
    outline: undefined,
    read: undefined,
    isExact: false,
    trouble: undefined,
  }));
  readonly #asking = new AskingBySteps(SOON_SIDES);
  readonly #drawing = new DrawingAround(
    (_, outline) => {
      this.#store.setState({ outline });
      void this.#study();
    },
    ({ id }) => id === this.placement,
  );

  constructor(desk: Desk, placement: string) {
    this.#desk = desk;
    this.placement = placement;
    void this.#study();
  }

  get store(): Readable<StudyShown> {
    return this.#store;
  }
  Surface: NonNullable<Tool['Surface']> = StudyCard;
  offer = () => ({
    title: 'Value study',
    ids: ['escape'],
    hint: 'Draw around a part of the picture to study that alone; a press is all of it again.',
  });
  isOver = (desk: Desk): boolean => placementOn(desk, this.placement) === undefined;
  leave(): void {
    this.#asking.stop();
  }
  press(seat: Seat, press: Press): ReturnType<Tool['press']> {
    return this.#drawing.press(this, seat, press);
  }
  overlay(_: Seat, context: CanvasRenderingContext2D): void {
    this.#drawing.draw(context);
  }

  #placed(): Placement | undefined {
    return placementOn(this.#desk, this.placement);
  }

  set(part: Partial<StudyAsked>): void {
    this.#store.setState({ wish: { ...this.#store.getState().wish, ...part } });
    void this.#study();
  }

  async #ask(side: number, wish: StudyAsked, signal: AbortSignal): Promise<StudyRead> {
    const placed = this.#placed();
    const source = sourceOfPlaced(this.#desk, placed);
    const outline: readonly Point[] | undefined = this.#store.getState().outline;
    return pixelPool().ask('study', { source, part: placed!.trim, side, wish, outline }, { signal });
  }

  /** Soon from a copy, then of all pixels; what was asked before is wanted no more. */
  async #study(): Promise<void> {
    const wish = { ...this.#store.getState().wish, edges: undefined };
    this.#store.setState({ isExact: false });
    await this.#asking.ask(
      (side, signal) => this.#ask(side, wish, signal),
      (read, isExact) => this.#store.setState({ read, isExact, trouble: undefined }),
      (trouble) => this.#store.setState({ trouble }),
    );
  }

  #nameOf(): string {
    const placed = this.#placed();
    const name = placed && this.#desk.sync.shelf.get(placed.picture)?.name;
    return `${name ?? 'picture'} in ${this.#store.getState().wish.steps} values`;
  }

  /** The study comes onto the board, as a picture of its own. */
  async toBoard(): Promise<void> {
    const placed = this.#placed();
    if (!placed) return;
    const wish = { ...this.#store.getState().wish, edges: undefined };
    const { width, height, data } = await this.#ask(PICTURE_SIDE, wish, new AbortController().signal);
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')!.putImageData(new ImageData(data, width, height), 0, 0);
    const bytes = await canvas.convertToBlob({ type: 'image/png' });
    const file = new File([bytes], `${this.#nameOf()}.png`, { type: 'image/png' });
    const { sync } = this.#desk;
    await bring({ sync, desk: this.#desk, at: placed.centre }, [{ kind: 'file', file }]);
  }

  async saveSvg(): Promise<void> {
    const { svg } = await this.#ask(PICTURE_SIDE, this.#store.getState().wish, new AbortController().signal);
    if (svg) saveFile(new Blob([svg], { type: 'image/svg+xml' }), `${this.#nameOf()}.svg`);
  }
}

export function studyValuesOf(desk: Desk): void {
  const placement = desk.targets.find(isPlacement);
  if (!placement) desk.say('There is no picture to study.', [NOTHING_HERE]);
  else desk.take(new ValueStudying(desk, placement.id), [placement.id]);
}

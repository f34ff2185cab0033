import { isPlacement, type Placement } from '@miradero/core/items';
import { type Desk, NOTHING_HERE, sourcesOf, type Tool } from '../desk/index.ts';
import { bring } from '../gather/index.ts';
import { ORIGINAL, PixelError, pixelPool, type StudyAsked, type StudyRead } from '../pixels/index.ts';
import { saveFile } from '../shell/index.ts';
import { createStore, type Readable } from '../state/index.ts';
import { LOOK } from '../tools/index.ts';
import type { Studying, StudyShown } from './study.ts';
import { StudyCard } from './study-card.tsx';

/** A copy that is here soon, to be told at once. */
const SOON_SIDE = 512;
/** The study that becomes a picture has this longest side at most. */
const PICTURE_SIDE = 2_048;

/** Puts one picture into few values; as long as it is taken one can look around. */
class ValueStudying implements Tool, Studying {
  readonly id = 'value-study';
  readonly press = LOOK.press;
  readonly double = LOOK.double!;
  readonly placement: string;
  readonly #desk: Desk;
  readonly #store = createStore<StudyShown>(() => ({
    wish: { steps: 4, borders: 'equal', island: 0.0005, edges: 0.002 },
    read: undefined,
    isExact: false,
    trouble: undefined,
  }));
  #asking = new AbortController();

  constructor(desk: Desk, placement: string) {
    this.#desk = desk;
    this.placement = placement;
    void this.#study();
  }

  get store(): Readable<StudyShown> {
    return this.#store;
  }
  Surface: NonNullable<Tool['Surface']> = StudyCard;
  offer = () => ({ title: 'Value study', ids: ['escape'], hint: 'It reads the picture that is selected.' });
  isOver = (desk: Desk): boolean => this.#placed(desk) === undefined;
  leave(): void {
    this.#asking.abort();
  }

  #placed(desk = this.#desk): Placement | undefined {
    const item = desk.session.items.get(this.placement);
    return item && isPlacement(item) && !item.removed ? item : undefined;
  }

  set(part: Partial<StudyAsked>): void {
    this.#store.setState({ wish: { ...this.#store.getState().wish, ...part } });
    void this.#study();
  }

  #ask(side: number, wish: StudyAsked, signal: AbortSignal): Promise<StudyRead> {
    const placed = this.#placed();
    const source = placed && sourcesOf(this.#desk.sync.shelf).source(placed.picture);
    if (!placed || !source) return Promise.reject(new PixelError('absent'));
    return pixelPool().ask('study', { source, part: placed.trim, side, wish }, { signal });
  }

  /** Soon from a copy, then of all pixels; what was asked before is wanted no more. */
  async #study(): Promise<void> {
    this.#asking.abort();
    this.#asking = new AbortController();
    const { signal } = this.#asking;
    const wish = { ...this.#store.getState().wish, edges: undefined };
    this.#store.setState({ isExact: false });
    try {
      for (const side of [SOON_SIDE, ORIGINAL]) {
        const read = await this.#ask(side, wish, signal);
        if (signal.aborted) return;
        this.#store.setState({ read, isExact: side === ORIGINAL, trouble: undefined });
      }
    } catch (error) {
      if (signal.aborted) return;
      const words =
        error instanceof PixelError ? 'The pixels of this picture cannot be read.' : String(error);
      this.#store.setState({ trouble: words });
    }
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

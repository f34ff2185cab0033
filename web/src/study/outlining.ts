import { isPlacement, type Placement } from '@miradero/core/items';
import { type Desk, NOTHING_HERE, type Tool } from '../desk/index.ts';
import { bring } from '../gather/index.ts';
import { pixelPool, type StrokesAsked } from '../pixels/index.ts';
import { saveFile } from '../shell/index.ts';
import { createStore, type Readable } from '../state/index.ts';
import { LOOK } from '../tools/index.ts';
import { AskingBySteps, placementOn, sourceOfPlaced } from './asking.ts';
import { OutlineCard } from './outline-card.tsx';
import type { OutlineShown, Outlining } from './study.ts';

/** The lines of the main forms of one picture. */
class OutlineDrawing implements Tool, Outlining {
  readonly id = 'outline-strokes';
  readonly press = LOOK.press;
  readonly double = LOOK.double!;
  readonly #desk: Desk;
  readonly #placement: string;
  readonly #store = createStore<OutlineShown>(() => ({
    wish: { detail: 0.006, tolerance: 0.002, most: 80 },
    ...{ read: undefined, isExact: false, trouble: undefined },
  }));
  readonly #asking = new AskingBySteps();

  constructor(desk: Desk, placement: string) {
    this.#desk = desk;
    this.#placement = placement;
    void this.#draw();
  }

  get store(): Readable<OutlineShown> {
    return this.#store;
  }
  Surface: NonNullable<Tool['Surface']> = OutlineCard;
  offer = () => ({ title: 'Outline', ids: ['escape'], hint: 'It draws the picture that is selected.' });
  isOver = (desk: Desk): boolean => placementOn(desk, this.#placement) === undefined;
  leave(): void {
    this.#asking.stop();
  }
  set(part: Partial<StrokesAsked>): void {
    this.#store.setState({ wish: { ...this.#store.getState().wish, ...part } });
    void this.#draw();
  }

  #placed(): Placement | undefined {
    return placementOn(this.#desk, this.#placement);
  }

  async #draw(): Promise<void> {
    const { wish } = this.#store.getState();
    this.#store.setState({ isExact: false });
    await this.#asking.ask(
      async (side, signal) => {
        const placed = this.#placed();
        const source = sourceOfPlaced(this.#desk, placed);
        return pixelPool().ask('strokes', { source, part: placed!.trim, side, wish }, { signal });
      },
      (read, isExact) => this.#store.setState({ read, isExact, trouble: undefined }),
      (trouble) => this.#store.setState({ trouble }),
    );
  }

  #file(): File | undefined {
    const placed = this.#placed();
    const { read } = this.#store.getState();
    const name = placed && this.#desk.sync.shelf.get(placed.picture)?.name;
    const type = 'image/svg+xml';
    return read && new File([read.svg], `${name ?? 'picture'} in ${read.count} lines.svg`, { type });
  }

  /** The outline comes onto the board, as a picture of its own. */
  async toBoard(): Promise<void> {
    const [placed, file] = [this.#placed(), this.#file()];
    const { sync } = this.#desk;
    if (placed && file) await bring({ sync, desk: this.#desk, at: placed.centre }, [{ kind: 'file', file }]);
  }

  save(): void {
    const file = this.#file();
    if (file) saveFile(file, file.name);
  }
}

export function outlineOf(desk: Desk): void {
  const placement = desk.targets.find(isPlacement);
  if (!placement) desk.say('There is no picture to draw the outline of.', [NOTHING_HERE]);
  else desk.take(new OutlineDrawing(desk, placement.id), [placement.id]);
}

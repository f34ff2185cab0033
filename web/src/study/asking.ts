import { isPlacement, type Placement } from '@miradero/core/items';
import { type Desk, sourcesOf } from '../desk/index.ts';
import { ORIGINAL, PixelError, type PixelSource } from '../pixels/index.ts';

/** Longest side of a copy that is here soon, to be told at once. */
const SOON_SIDES: readonly number[] = [512];

/** Where the pixels of a placed picture are. @throws PixelError where it is not here */
export function sourceOfPlaced(desk: Desk, placed: Placement | undefined): PixelSource {
  const source = placed && sourcesOf(desk.sync.shelf).source(placed.picture);
  if (!source) throw new PixelError('absent');
  return source;
}

export function placementOn(desk: Desk, id: string | undefined): Placement | undefined {
  const item = id === undefined ? undefined : desk.session.items.get(id);
  return item && isPlacement(item) && !item.removed ? item : undefined;
}

/** Asks of small copies, which are here soon, then of all pixels; what is asked anew ends what was asked before. */
export class AskingBySteps {
  readonly #sides: readonly number[];
  #asking = new AbortController();

  /** @param soonSides - longest sides of the copies, rising: the first is so small that it is told at once */
  constructor(soonSides = SOON_SIDES) {
    this.#sides = [...soonSides, ORIGINAL];
  }

  stop(): void {
    this.#asking.abort();
  }

  /** @param onTrouble - told why nothing comes, in words */
  async ask<T>(
    read: (side: number, signal: AbortSignal) => Promise<T>,
    onRead: (value: T, isExact: boolean) => void,
    onTrouble: (words: string) => void,
  ): Promise<void> {
    this.#asking.abort();
    this.#asking = new AbortController();
    const { signal } = this.#asking;
    try {
      for (const side of this.#sides) {
        const value = await read(side, signal);
        if (signal.aborted) return;
        onRead(value, side === ORIGINAL);
      }
    } catch (error) {
      if (signal.aborted) return;
      onTrouble(
        error instanceof PixelError && error.trouble === 'unreachable'
          ? 'The pixels of this picture do not come: the server is away.'
          : 'The pixels of this picture cannot be read.',
      );
    }
  }
}

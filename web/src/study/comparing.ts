import { FINE_BINS } from '@miradero/core/colour';
import { isPlacement } from '@miradero/core/items';
import type { Desk, Tool } from '../desk/index.ts';
import { pixelPool } from '../pixels/index.ts';
import { createStore } from '../state/index.ts';
import { LOOK } from '../tools/index.ts';
import { AskingBySteps, placementOn, sourceOfPlaced } from './asking.ts';
import { CompareCard } from './compare-card.tsx';
import type { ComparedValues, Comparing } from './study.ts';

/** The values of two pictures on one scale. */
class ValueComparing implements Tool, Comparing {
  readonly id = 'compare-values';
  readonly press = LOOK.press;
  readonly double = LOOK.double!;
  readonly #ids: readonly [string, string];
  readonly #store;
  readonly #asking = [new AskingBySteps(), new AskingBySteps()] as const;

  constructor(desk: Desk, ids: readonly [string, string]) {
    this.#ids = ids;
    const named = (id: string): ComparedValues => {
      const placed = placementOn(desk, id);
      const name = (placed && desk.sync.shelf.get(placed.picture)?.name) ?? 'picture';
      return { name, distribution: undefined, isExact: false, trouble: undefined };
    };
    this.#store = createStore(() => ({
      pictures: [named(ids[0]), named(ids[1])] as readonly [ComparedValues, ComparedValues],
    }));
    for (const [index, id] of ids.entries()) void this.#count(desk, id, index as 0 | 1);
  }

  get store(): Comparing['store'] {
    return this.#store;
  }
  Surface: NonNullable<Tool['Surface']> = CompareCard;
  offer = () => ({
    title: 'Values side by side',
    ids: ['escape'],
    hint: 'Both on one scale, darkest below.',
  });
  isOver = (desk: Desk): boolean => this.#ids.some((id) => placementOn(desk, id) === undefined);
  leave(): void {
    for (const one of this.#asking) one.stop();
  }

  #set(index: 0 | 1, part: Partial<ComparedValues>): void {
    const [one, two] = this.#store.getState().pictures;
    this.#store.setState({
      pictures: index === 0 ? [{ ...one, ...part }, two] : [one, { ...two, ...part }],
    });
  }

  async #count(desk: Desk, id: string, index: 0 | 1): Promise<void> {
    await this.#asking[index].ask(
      async (side, signal) => {
        const placed = placementOn(desk, id);
        const source = sourceOfPlaced(desk, placed);
        return pixelPool().ask(
          'distribution',
          { source, part: placed!.trim, side, bins: FINE_BINS },
          { signal },
        );
      },
      (distribution, isExact) => this.#set(index, { distribution, isExact }),
      (trouble) => this.#set(index, { trouble }),
    );
  }
}

export function compareValues(desk: Desk): void {
  const [one, two, ...more] = desk.targets.filter(isPlacement);
  if (one && two && more.length === 0)
    desk.take(new ValueComparing(desk, [one.id, two.id]), [one.id, two.id]);
  else desk.say('The values of two pictures are set side by side: select two.');
}

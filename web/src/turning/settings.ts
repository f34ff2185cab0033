import { createStore, type Readable } from '../state/index.ts';

/** What a drag without a key does to a model. */
export type TurningDrag = 'turn' | 'light' | 'aside';

interface TurningSettings {
  readonly drag: TurningDrag;
  /** Stills of one turn. */
  readonly stills: number;
}

const store = createStore<TurningSettings>(() => ({ drag: 'turn', stills: 12 }));

/** How models are turned in this window. */
export const turningSettings = {
  store: store as Readable<TurningSettings>,
  get now(): TurningSettings {
    return store.getState();
  },
  set(part: Partial<TurningSettings>): void {
    store.setState(part);
  },
};

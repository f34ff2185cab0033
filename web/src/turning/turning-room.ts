import { isPlacement, type Placement } from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';
import { modelsOn } from './models-on-desk.ts';
import { takeView } from './taking.ts';
import { turnModel } from './turning.ts';

export { turnModel };

/** Takes a picture of the model that is turned; turns one first where none is. */
export function takeTurned(desk: Desk): void {
  const item = desk.selected.find((one): one is Placement => isPlacement(one) && modelsOn(desk).isModel(one));
  if (item && desk.tool?.id === 'turn-model') void takeView(desk, item);
  else turnModel(desk);
}

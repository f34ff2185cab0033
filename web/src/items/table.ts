import type { ItemKind, ItemOfKind } from '@miradero/core/items';
import { bayInInterface } from './bay/index.ts';
import { clusterInInterface } from './cluster/index.ts';
import type { KindInInterface } from './kind.ts';
import { linkInInterface } from './link/index.ts';
import { litBallInInterface } from './lit-ball/index.ts';
import { markInInterface, pictureMarkInInterface } from './mark/index.ts';
import { noteInInterface } from './note/index.ts';
import { paletteInInterface } from './palette/index.ts';
import { placementInInterface } from './placement/index.ts';
import { sheetInInterface } from './sheet/index.ts';
import { viewInInterface } from './view/index.ts';
import { workingSetInInterface } from './working-set/index.ts';

/** Every kind of item as the interface has it. */
export const KINDS_IN_INTERFACE: { readonly [K in ItemKind]: KindInInterface<ItemOfKind<K>> } = {
  placement: placementInInterface,
  note: noteInInterface,
  link: linkInInterface,
  cluster: clusterInInterface,
  view: viewInInterface,
  bay: bayInInterface,
  'working-set': workingSetInInterface,
  palette: paletteInInterface,
  'lit-ball': litBallInInterface,
  mark: markInInterface,
  'picture-mark': pictureMarkInInterface,
  sheet: sheetInInterface,
};

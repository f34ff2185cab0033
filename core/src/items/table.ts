import { bayKind } from './bay/index.ts';
import { clusterKind } from './cluster/index.ts';
import type { KindOfItem } from './kind.ts';
import { linkKind } from './link/index.ts';
import { litBallKind } from './lit-ball/index.ts';
import { markKind, pictureMarkKind } from './mark/index.ts';
import { noteKind } from './note/index.ts';
import { paletteKind } from './palette/index.ts';
import { placementKind } from './placement/index.ts';
import { sheetKind } from './sheet/index.ts';
import { viewKind } from './view/index.ts';
import { workingSetKind } from './working-set/index.ts';

export * from './bay/index.ts';
export * from './cluster/index.ts';
export * from './link/index.ts';
export * from './lit-ball/index.ts';
export * from './mark/index.ts';
export * from './note/index.ts';
export * from './palette/index.ts';
export * from './placement/index.ts';
export * from './sheet/index.ts';
export * from './view/index.ts';
export * from './working-set/index.ts';

/** Every kind of item there is: to add one, add it here (and export its folder above). */
export const ITEM_KINDS = {
  placement: placementKind,
  note: noteKind,
  link: linkKind,
  cluster: clusterKind,
  view: viewKind,
  bay: bayKind,
  'working-set': workingSetKind,
  palette: paletteKind,
  'lit-ball': litBallKind,
  mark: markKind,
  'picture-mark': pictureMarkKind,
  sheet: sheetKind,
} as const;

export type ItemKind = keyof typeof ITEM_KINDS;
export type ItemOfKind<K extends ItemKind> = (typeof ITEM_KINDS)[K] extends KindOfItem<infer I> ? I : never;
export type Item = { [K in ItemKind]: ItemOfKind<K> }[ItemKind];

import type { Placement } from '@miradero/core/items';
import type { KindInInterface } from '../kind.ts';
import { PictureLabel } from './picture-label.tsx';

export const placementInInterface: KindInInterface<Placement> = {
  nameOf: (desk, { picture }) => desk.sync.shelf.get(picture)?.name,
  offers: [
    ...['come-close', 'trim', 'flip', 'turn', 'fade', 'fainter', 'stronger', 'label'],
    ...['as-it-came', 'duplicate', 'remove', 'raise', 'lower', 'spare', 'fix', 'cluster'],
  ],
  Label: PictureLabel,
};

import type { Placement } from '@miradero/core/items';
import { inGroup } from '../../desk/index.ts';
import type { KindInInterface } from '../kind.ts';
import { labelPicture } from './labelling.ts';
import { PictureLabel } from './picture-label.tsx';

export const placementInInterface: KindInInterface<Placement> = {
  nameOf: (desk, { picture }) => desk.sync.shelf.get(picture)?.name,
  offers: [
    ...['come-close', 'trim', 'flip', 'turn', 'fade', 'fainter', 'stronger', 'label', 'label-picture'],
    ...['as-it-came', 'duplicate', 'remove', 'raise', 'lower', 'spare', 'fix', 'cluster'],
  ],
  offersFirst(desk, { picture }) {
    const kind = desk.sync.shelf.get(picture)?.picture?.kind;
    if (kind === 'model') return ['turn-model'];
    return kind === 'clip' || kind === 'animated' ? ['play', 'frame-by-frame'] : [];
  },
  Label: PictureLabel,
  actions: inGroup('Picture', [
    ['label-picture', 'label a part', 'Shift+I', labelPicture],
    ['show-labels', 'labels on pictures', 'Alt+l', (desk) => desk.toggleLabels()],
  ]),
};

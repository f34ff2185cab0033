import { type Placement, SHEET_ID } from '@miradero/core/items';
import { inGroup } from '../../desk/index.ts';
import type { KindInInterface } from '../kind.ts';
import { labelPicture } from './labelling.ts';
import { PictureLabel } from './picture-label.tsx';

export const placementInInterface: KindInInterface<Placement> = {
  nameOf: (desk, { picture }) => desk.sync.shelf.get(picture)?.name,
  offers: [
    ...[
      'come-close',
      'trim',
      'flip',
      'turn',
      'fade',
      'fainter',
      'stronger',
      'multiply',
      'label',
      'label-picture',
    ],
    ...['as-it-came', 'duplicate', 'remove', 'raise', 'lower', 'spare', 'fix', 'cluster'],
  ],
  offersFirst(desk, { picture, drawing }) {
    const known = desk.sync.shelf.get(picture)?.picture;
    if (known?.facts.paperMm && !drawing && desk.session.items.has(SHEET_ID)) return ['as-drawing'];
    const kind = known?.kind;
    if (kind === 'model') return ['turn-model'];
    return kind === 'clip' || kind === 'animated' ? ['play', 'frame-by-frame', 'frame-on'] : [];
  },
  Label: PictureLabel,
  actions: inGroup('Picture', [
    ['label-picture', 'label a part', 'Shift+I', labelPicture],
    ['show-labels', 'labels on pictures', 'Alt+l', (desk) => desk.toggleLabels()],
  ]),
};

import type { LitBall } from '@miradero/core/items';
import type { Desk } from '../../desk/index.ts';
import { LitBallLabel, loadLight } from '../../light/index.ts';
import type { KindInInterface } from '../kind.ts';

function LabelOfLitBall({ desk, item }: { desk: Desk; item: LitBall }) {
  return <LitBallLabel key={item.id} desk={desk} item={item} />;
}

export const litBallInInterface: KindInInterface<LitBall> = {
  nameOf: (_, { title }) => title.trim() || undefined,
  offers: ['label', 'light-and-shadow', 'come-close', 'duplicate', 'remove', 'fix', 'raise', 'lower'],
  Label: LabelOfLitBall,
  ahead: loadLight,
  open(desk) {
    if (!desk.now.isLabelOpen) desk.toggleLabel();
  },
};

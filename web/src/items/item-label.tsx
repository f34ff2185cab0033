import { type Item, kindOf } from '@miradero/core/items';
import type { ReactNode } from 'react';
import type { Desk } from '../desk/index.ts';
import { kindInInterface } from './kind-of.ts';
import { PlainLabel } from './plain-label.tsx';

/** What the wall label says of an item. */
export function ItemLabel({ desk, item }: { desk: Desk; item: Item }): ReactNode {
  const { Label } = kindInInterface(item);
  return Label ? (
    <Label desk={desk} item={item} />
  ) : (
    <PlainLabel desk={desk} item={item} title={kindOf(item).title} />
  );
}

import type { Item } from '@miradero/core/items';
import type { ReactNode } from 'react';
import type { Desk } from '../desk/index.ts';
import { Standing } from './standing.tsx';

/** A heading, where and how the item stands, and more rows of its kind. */
export function PlainLabel({
  desk,
  item,
  title,
  children,
}: {
  desk: Desk;
  item: Item;
  title: string;
  children?: ReactNode;
}) {
  return (
    <>
      <h2 className="mb-2 font-serif text-[20px] leading-[1.2]">{title}</h2>
      <dl className="text-[13px]">
        <Standing desk={desk} item={item} />
        {children}
      </dl>
    </>
  );
}

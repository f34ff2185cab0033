import { Dialog } from 'radix-ui';
import { type ComponentProps, useRef } from 'react';
import { giveBackTo } from './give-back.ts';

/**
 * A sheet over the page. What had the keyboard before it opened has it again afterwards: a sheet that was opened by a key has
 * no trigger to which it could go by itself.
 */
export function SheetContent(props: ComponentProps<typeof Dialog.Content>) {
  const before = useRef(document.activeElement);
  return (
    <Dialog.Content
      {...props}
      onCloseAutoFocus={(event) => {
        event.preventDefault();
        giveBackTo(before.current);
      }}
    />
  );
}

import { Dialog } from 'radix-ui';
import { type ComponentProps, useRef } from 'react';

/** What has the keyboard on a page where nothing else can take it back. */
const HOME = '.stage, [data-testid="wall"]';

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
        const to = before.current;
        const isThere = to instanceof HTMLElement && to.isConnected && to !== document.body;
        const home = isThere ? to : document.querySelector<HTMLElement>(HOME);
        home?.focus({ preventScroll: true });
      }}
    />
  );
}

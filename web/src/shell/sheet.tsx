import { Dialog } from 'radix-ui';
import { type ComponentProps, type ReactNode, useRef } from 'react';
import { giveBackTo } from './give-back.ts';

interface SheetProps extends Omit<ComponentProps<typeof Dialog.Content>, 'title' | 'about'> {
  readonly onClose: () => void;
  /** Its heading; missing where the sheet has a head of its own, with a `Dialog.Title` in it. */
  readonly title?: ReactNode;
  /** What it is for, below its heading. */
  readonly about?: ReactNode;
}

/**
 * A sheet over the page, from when it is rendered until it is left. What had the keyboard before it opened has it again
 * afterwards: a sheet that was opened by a key has no trigger to which it could go by itself.
 */
export function Sheet({ onClose, title, about, className = '', children, ...props }: SheetProps) {
  const before = useRef(document.activeElement);
  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content
          className={`sheet ${className}`}
          {...(about === undefined && { 'aria-describedby': undefined })}
          {...props}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            giveBackTo(before.current);
          }}
        >
          {title !== undefined && (
            <Dialog.Title className="break-words font-serif text-[22px]">{title}</Dialog.Title>
          )}
          {about !== undefined && (
            <Dialog.Description className="mt-1 text-muted">{about}</Dialog.Description>
          )}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

import { Popover } from 'radix-ui';
import { type ReactNode, useRef, useState } from 'react';
import { giveBackTo } from './give-back.ts';

const CARD =
  'z-40 max-h-[70vh] max-w-[calc(100vw-16px)] overflow-auto border border-line bg-raised text-[14px] text-ink shadow-[0_8px_28px_rgb(0_0_0/0.18)]';

/** A word that opens a card beside it; what had the keyboard keeps it, and has it again when the card closes. */
export function PopoverCard({
  word,
  label,
  name,
  side,
  align,
  className,
  closesOnPress = false,
  children,
}: {
  word: string;
  /** What the card is called. */
  label: string;
  /** Of the word, for those who look for it in the document. */
  name?: string;
  side: 'top' | 'bottom';
  align: 'start' | 'end';
  className: string;
  /** Whatever is pressed in it is done, and the card with it. */
  closesOnPress?: boolean;
  children: ReactNode | ((close: () => void) => ReactNode);
}) {
  const [isOpen, setOpen] = useState(false);
  /** What had the keyboard before the card was opened. */
  const before = useRef<Element | null>(null);
  return (
    <Popover.Root
      open={isOpen}
      onOpenChange={(open) => {
        if (open) before.current = document.activeElement;
        setOpen(open);
      }}
    >
      <Popover.Trigger
        data-family={name}
        onPointerDown={(event) => event.preventDefault()}
        className="word shrink-0 whitespace-nowrap px-1.5 py-1 underline decoration-1 underline-offset-3 hover:bg-raised"
      >
        {word}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={label}
          side={side}
          align={align}
          sideOffset={8}
          collisionPadding={8}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            giveBackTo(before.current);
          }}
          className={`${CARD} ${className}`}
          onClick={(event) => {
            if (closesOnPress && (event.target as HTMLElement).closest('button, a')) setOpen(false);
          }}
        >
          {typeof children === 'function' ? children(() => setOpen(false)) : children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

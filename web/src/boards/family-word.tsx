import { Popover } from 'radix-ui';
import { useRef, useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { giveBackTo } from '../shell/index.ts';
import { ActionWord } from './action-word.tsx';
import type { Family } from './families.tsx';

/** The few of a family, chapter by chapter. */
export function FamilyList({ family, desk, onDone }: { family: Family; desk: Desk; onDone: () => void }) {
  return (
    <>
      {family.chapters.map(({ title, ids }) => (
        <section key={title} className="flex flex-col items-start">
          <h3 className="px-1.5 pt-1.5 text-[12px] text-muted">{title}</h3>
          {ids.map((id) => (
            <ActionWord key={id} id={id} onDone={onDone} />
          ))}
        </section>
      ))}
      {family.Settings?.map((Setting, index) => (
        <Setting key={index} desk={desk} onDone={onDone} />
      ))}
    </>
  );
}

/** One word of the sill that opens its few. */
export function FamilyWord({ family, desk }: { family: Family; desk: Desk }) {
  const [isOpen, setOpen] = useState(false);
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
        data-family={family.id}
        // The stage keeps the focus, so that the next key is its.
        onPointerDown={(event) => event.preventDefault()}
        className="word shrink-0 whitespace-nowrap px-1.5 py-1 underline decoration-1 underline-offset-3 hover:bg-raised"
      >
        {family.label}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={family.label}
          side="top"
          align="start"
          sideOffset={8}
          collisionPadding={8}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            giveBackTo(before.current);
          }}
          className="z-40 flex max-h-[70vh] max-w-[calc(100vw-16px)] flex-wrap items-start gap-x-4 gap-y-1 overflow-auto border border-line bg-raised p-3 text-[14px] text-ink shadow-[0_8px_28px_rgb(0_0_0/0.18)]"
        >
          <FamilyList family={family} desk={desk} onDone={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

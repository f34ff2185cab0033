import type { CreateExport } from '@miradero/core/schema';
import type { ReactNode } from 'react';
import type { Desk } from '../desk/index.ts';
import { Sheet, SheetFooter } from '../shell/index.ts';
import { saveAs } from './taking-out.ts';

/** A sheet on which is said how something is saved: it closes, and what was asked for is made and saved. */
export function ExportSheet({
  desk,
  title,
  about,
  request,
  onClose,
  children,
}: {
  desk: Desk;
  title: string;
  about: string;
  request: () => Omit<CreateExport, 'id'>;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <Sheet {...{ title, about, onClose }} className="w-[min(520px,94vw)] px-5 py-4">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onClose();
          void saveAs(desk, request());
        }}
      >
        {children}
        <SheetFooter word="Save" />
      </form>
    </Sheet>
  );
}

/** One of some lengths of the longest side that can be chosen. */
export function SideWord({
  isChosen,
  onChoose,
  children,
}: {
  isChosen: boolean;
  onChoose: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-pressed={isChosen}
      className="figures border border-line px-1.5 py-0.5 text-[12px] aria-pressed:bg-ink aria-pressed:text-paper"
      onClick={onChoose}
    >
      {children}
    </button>
  );
}

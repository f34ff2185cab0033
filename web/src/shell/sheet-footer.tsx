import { Dialog } from 'radix-ui';

/** The end of a sheet that is filled in: it is left, or what it is for is done. */
export function SheetFooter({ word }: { word: string }) {
  return (
    <footer className="mt-4 flex items-center justify-end gap-4">
      <Dialog.Close className="px-2 py-1 text-muted underline underline-offset-3">Leave</Dialog.Close>
      <button type="submit" className="border border-ink bg-ink px-3 py-1 text-paper">
        {word}
      </button>
    </footer>
  );
}

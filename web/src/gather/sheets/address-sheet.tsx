import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { Sheet } from '../../shell/index.ts';
import { addressesIn } from '../reading/read-transfer.ts';

/** Lines as addresses; one without http is taken as it is meant. */
export function readLines(text: string): { addresses: string[]; unread: string[] } {
  const lines = text
    .split(/\s*\n\s*/)
    .map((line) => line.trim())
    .filter((line) => line !== '');
  const whole = lines.map((line) =>
    /^[\w-]+(?:\.[\w-]+)+(?:[/?#:].*)?$/.test(line) ? `https://${line}` : line,
  );
  const isGood = (line: string) => addressesIn(line)?.length === 1;
  return { addresses: whole.filter(isGood), unread: lines.filter((_, index) => !isGood(whole[index]!)) };
}

/** One address or many, a line each. */
export function AddressSheet({
  onTake,
  onClose,
}: {
  onTake: (addresses: string[]) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const { addresses, unread } = readLines(text);
  const take = () => {
    if (addresses.length === 0 || unread.length > 0) return;
    onClose();
    onTake(addresses);
  };
  return (
    <Sheet
      title="By address"
      about="Of a picture, or of a page: then you pick from what is on it. One address a line."
      onClose={onClose}
      className="w-[min(560px,94vw)] px-5 py-4"
    >
      <textarea
        aria-label="Addresses"
        className="figures mt-3 block h-28 w-full resize-none border border-line bg-paper px-2 py-1.5"
        placeholder="https://"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (
            event.key === 'Enter' &&
            (event.ctrlKey || event.metaKey || unread.length === 0) &&
            !event.shiftKey
          ) {
            event.preventDefault();
            take();
          }
        }}
      />
      {unread.length > 0 && (
        <p role="alert" className="mt-2 text-[13px] text-vermilion">
          This is no address of the web: {unread[0]!.slice(0, 60)}
        </p>
      )}
      <footer className="mt-3 flex items-center justify-end gap-4">
        <span className="mr-auto text-[13px] text-muted">Shift + Enter begins another line</span>
        <Dialog.Close className="px-2 py-1 text-muted underline underline-offset-3">Leave</Dialog.Close>
        <button
          type="button"
          className="whitespace-nowrap border border-ink bg-ink px-3 py-1 text-paper disabled:opacity-40"
          disabled={addresses.length === 0 || unread.length > 0}
          onClick={take}
        >
          Look there
        </button>
      </footer>
    </Sheet>
  );
}

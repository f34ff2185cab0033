import { Dialog } from 'radix-ui';
import { type ReactNode, useEffect, useState } from 'react';
import { GatherLine } from '../gather-line.tsx';

/** One picture that can be picked; `preview` is where it can be seen, or its file. */
export interface Pickable {
  readonly key: string;
  readonly name: string;
  readonly detail: string;
  readonly preview: string | Blob;
}

/** A file is shown by an address of its own, as long as it is in sight. */
function usePreview(preview: string | Blob): string | undefined {
  const [address, setAddress] = useState<string>();
  useEffect(() => {
    if (typeof preview === 'string') {
      setAddress(preview);
      return;
    }
    const made = URL.createObjectURL(preview);
    setAddress(made);
    return () => URL.revokeObjectURL(made);
  }, [preview]);
  return address;
}

function Card({ one, isPicked, onToggle }: { one: Pickable; isPicked: boolean; onToggle: () => void }) {
  const address = usePreview(one.preview);
  const [isBroken, setBroken] = useState(false);
  return (
    <li>
      <button
        type="button"
        aria-pressed={isPicked}
        className="pickable group block w-full border border-line bg-paper text-left"
        onClick={onToggle}
      >
        <span className="grid h-32 place-items-center overflow-hidden bg-[#797979]">
          {address && !isBroken ? (
            <img
              src={address}
              alt=""
              loading="lazy"
              className="max-h-32 max-w-full"
              onError={() => setBroken(true)}
            />
          ) : (
            <span className="px-2 text-[12px] text-black">no preview</span>
          )}
        </span>
        <span className="block px-2 py-1.5">
          <span className="line-clamp-2 font-serif text-[15px] leading-snug">{one.name}</span>
          <span className="figures block text-muted">{one.detail}</span>
        </span>
      </button>
    </li>
  );
}

/** Cards of this many are laid out at once; more come as one goes on. */
const A_LEAF = 60;

/** Pictures of a page or a folder to pick from. */
export function PickSheet({
  title,
  facts,
  note,
  pictures,
  onTake,
  onClose,
}: {
  title: string;
  facts: ReactNode;
  note?: string;
  pictures: readonly Pickable[];
  onTake: (keys: readonly string[]) => void;
  onClose: () => void;
}) {
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [shown, setShown] = useState(A_LEAF);
  const toggle = (key: string) => {
    const next = new Set(picked);
    if (!next.delete(key)) next.add(key);
    setPicked(next);
  };
  const take = () => {
    const keys = picked.size > 0 ? pictures.filter(({ key }) => picked.has(key)) : pictures;
    onTake(keys.map(({ key }) => key));
  };
  const words = picked.size > 0 ? `Take ${picked.size}` : `Take all ${pictures.length}`;
  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content
          className="sheet flex max-h-[86vh] w-[min(920px,94vw)] flex-col"
          aria-describedby={undefined}
        >
          <header className="flex flex-wrap items-baseline gap-x-4 border-line border-b px-5 py-3.5">
            <Dialog.Title className="font-serif text-[22px] leading-tight">{title}</Dialog.Title>
            <div className="text-[13px] text-muted">{facts}</div>
          </header>
          <div className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
            {pictures.length === 0 && (
              <p className="py-6 font-serif text-[18px] text-muted italic">No picture is to be found here.</p>
            )}
            <ul className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-3">
              {pictures.slice(0, shown).map((one) => (
                <Card
                  key={one.key}
                  one={one}
                  isPicked={picked.has(one.key)}
                  onToggle={() => toggle(one.key)}
                />
              ))}
            </ul>
            {shown < pictures.length && (
              <button
                type="button"
                className="mt-4 underline underline-offset-3"
                onClick={() => setShown(shown + A_LEAF)}
              >
                {pictures.length - shown} more
              </button>
            )}
          </div>
          <footer className="flex items-center gap-4 border-line border-t px-5 py-3">
            <span className="min-w-0 flex-1 text-[13px] text-muted">{note}</span>
            {/* The veil covers the one in the lintel. */}
            <GatherLine />
            <Dialog.Close className="px-2 py-1 text-muted underline underline-offset-3">
              Take none
            </Dialog.Close>
            <button
              type="button"
              className="border border-ink bg-ink px-3 py-1 text-paper disabled:opacity-40"
              disabled={pictures.length === 0}
              onClick={take}
            >
              {words}
            </button>
          </footer>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

import { addressIdOf } from '@miradero/core/picture';
import { Dialog } from 'radix-ui';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { Choices, Sheet, useSync } from '../../shell/index.ts';
import { recall, remember, useStore } from '../../state/index.ts';
import { IntakeLine } from '../gather-line.tsx';
import { refuse } from '../keeping/refusals.ts';
import { useComplexity } from './use-complexity.ts';

/** One picture that can be picked; `preview` is where it can be seen, or its file. */
export interface Pickable {
  readonly key: string;
  readonly name: string;
  readonly detail: string;
  readonly preview: string | Blob;
  /** What one wants to know before taking it. */
  readonly marks?: readonly string[];
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

function Card({
  one,
  isPicked,
  isRefused,
  onToggle,
  onRefuse,
}: {
  one: Pickable;
  isPicked: boolean;
  isRefused: boolean;
  onToggle: () => void;
  /** Undefined where nothing is refused for good. */
  onRefuse: (() => void) | undefined;
}) {
  const address = usePreview(one.preview);
  const [isBroken, setBroken] = useState(false);
  const { marks = [] } = one;
  return (
    <li className={`relative ${isRefused ? 'opacity-45' : ''}`}>
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
          {marks.length > 0 && <span className="block text-[13px] text-vermilion">{marks.join(', ')}</span>}
        </span>
      </button>
      {onRefuse && (
        <button
          type="button"
          aria-pressed={isRefused}
          aria-label={`${isRefused ? 'No longer refuse' : 'Refuse'} ${one.name}`}
          title={isRefused ? 'Refused: press to think again' : 'Not this one, and not next time'}
          className="absolute top-1 right-1 border border-line bg-raised px-1.5 py-0.5 text-[12px] pointer-coarse:min-h-10 pointer-coarse:min-w-10"
          onClick={onRefuse}
        >
          {isRefused ? 'refused' : 'no'}
        </button>
      )}
    </li>
  );
}

type Order = 'page' | 'simple';
const ORDERS: Readonly<Record<Order, string>> = {
  page: 'as on the page',
  simple: 'from simple to complicated',
};
const ORDER_KEY = 'miradero-order-of-picking';
const keptOrder = (): Order => (recall(ORDER_KEY) === 'page' ? 'page' : 'simple');

/** Cards of this many are laid out at once; more come as one goes on. */
const A_LEAF = 60;

const NONE: readonly Pickable[] = [];

/** Pictures of a page or a folder to pick from. */
export function PickSheet({
  title,
  facts,
  note,
  pictures,
  isFromWeb = false,
  onCard,
  onTake,
  onClose,
}: {
  title: string;
  facts: ReactNode;
  note?: string;
  pictures: readonly Pickable[];
  /** They can be put in order by how complicated they are, and what is refused is remembered. */
  isFromWeb?: boolean;
  /** Keeps where they are as a card instead, where that can be. */
  onCard?: (() => void) | undefined;
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
  const { settings } = useSync();
  const { refused = [] } = useStore(settings.store);
  const [order, setOrder] = useState(keptOrder);
  const complexity = useComplexity(isFromWeb && order === 'simple' ? pictures : NONE);
  const isRefused = ({ key }: Pickable) => isFromWeb && refused.includes(addressIdOf(key));
  // What is refused comes last, and is not taken with all; nothing moves while something is picked.
  const arranged = useRef(pictures);
  if (picked.size === 0) {
    const place = (one: Pickable) => (isRefused(one) ? 2 : 0) + (complexity.get(one.key) ?? 1);
    arranged.current =
      isFromWeb && order === 'simple'
        ? pictures.toSorted((a, b) => place(a) - place(b))
        : pictures.toSorted((a, b) => Number(isRefused(a)) - Number(isRefused(b)));
  }
  const offered = pictures.filter((one) => !isRefused(one));
  const take = () => {
    const keys = picked.size > 0 ? pictures.filter(({ key }) => picked.has(key)) : offered;
    onTake(keys.map(({ key }) => key));
  };
  const words = picked.size > 0 ? `Take ${picked.size}` : `Take all ${offered.length}`;
  return (
    <Sheet onClose={onClose} className="flex max-h-[86vh] w-[min(920px,94vw)] flex-col">
      <header className="flex flex-wrap items-baseline gap-x-4 border-line border-b px-5 py-3.5">
        <Dialog.Title className="font-serif text-[22px] leading-tight">{title}</Dialog.Title>
        <div className="text-[13px] text-muted">{facts}</div>
        {isFromWeb && pictures.length > 1 && (
          <Choices
            label="In which order"
            className="ml-auto"
            words={ORDERS}
            value={order}
            onChange={(next) => {
              remember(ORDER_KEY, next);
              setOrder(next);
            }}
          />
        )}
      </header>
      <div className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
        {pictures.length === 0 && (
          <p className="py-6 font-serif text-[18px] text-muted italic">
            No picture is to be found here.
            {onCard && ' Keep the page as a card: title, site and address, one press away.'}
          </p>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-3">
          {arranged.current.slice(0, shown).map((one) => (
            <Card
              key={one.key}
              one={one}
              isPicked={picked.has(one.key)}
              isRefused={isRefused(one)}
              onToggle={() => toggle(one.key)}
              onRefuse={
                isFromWeb
                  ? () => {
                      if (picked.has(one.key)) toggle(one.key);
                      void refuse(settings, one.key, !isRefused(one));
                    }
                  : undefined
              }
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
        <IntakeLine />
        <Dialog.Close className="px-2 py-1 text-muted underline underline-offset-3">Take none</Dialog.Close>
        {onCard && (
          <button
            type="button"
            className={
              pictures.length === 0
                ? 'border border-ink bg-ink px-3 py-1 text-paper'
                : 'px-2 py-1 underline underline-offset-3'
            }
            onClick={onCard}
          >
            Keep as a card
          </button>
        )}
        <button
          type="button"
          className={`border border-ink bg-ink px-3 py-1 text-paper disabled:opacity-40 ${pictures.length === 0 && onCard ? 'hidden' : ''}`}
          disabled={picked.size === 0 && offered.length === 0}
          onClick={take}
        >
          {words}
        </button>
      </footer>
    </Sheet>
  );
}

import type { Point } from '@miradero/core/geometry';
import { useEffect, useRef } from 'react';
import type { Desk } from '../desk/index.ts';
import { offerOf } from '../items/index.ts';
import { isInDialog } from '../shell/index.ts';
import { useMade } from '../state/index.ts';
import { ActionWord } from './action-word.tsx';
import { FAMILIES } from './families.tsx';

const GAP = 8;
/** Of a family the first few, which are done most. */
const OF_A_FAMILY = 2;

const wordsOf = (id: string): readonly string[] =>
  FAMILIES.get(id)
    ?.chapters.flatMap(({ ids }) => ids.slice(0, OF_A_FAMILY))
    .slice(0, 2 * OF_A_FAMILY) ?? [id];

/** What the sill offers, at the hand: for a secondary click and for a pen or finger that is held still. */
export function HandCard({ desk, at, onClose }: { desk: Desk; at: Point; onClose: () => void }) {
  const card = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = card.current!;
    const place = () => {
      const view = desk.view?.viewport ?? { width: 0, height: 0 };
      const x = Math.max(GAP, Math.min(at.x, view.width - element.offsetWidth - GAP));
      const y = Math.max(GAP, Math.min(at.y, view.height - element.offsetHeight - GAP));
      element.style.transform = `translate(${Math.round(x)}px, ${Math.round(y)}px)`;
    };
    place();
    // Letters that come late, and other words for what is selected then, make it another size.
    const watcher = new ResizeObserver(place);
    watcher.observe(element);
    // So does the window, which may be made smaller meanwhile.
    const end = desk.view?.store.subscribe(place);
    element.querySelector('button')?.focus();
    const onAway = (event: Event) => {
      if (!element.contains(event.target as Node)) onClose();
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || isInDialog(event)) return;
      event.stopImmediatePropagation();
      onClose();
    };
    window.addEventListener('pointerdown', onAway, { capture: true });
    window.addEventListener('wheel', onAway, { capture: true });
    window.addEventListener('keydown', onKey, { capture: true });
    return () => {
      watcher.disconnect();
      end?.();
      window.removeEventListener('pointerdown', onAway, { capture: true });
      window.removeEventListener('wheel', onAway, { capture: true });
      window.removeEventListener('keydown', onKey, { capture: true });
    };
  }, [desk, at, onClose]);
  const { title, ids } = useMade(desk.watch, () => offerOf(desk));
  return (
    <section
      ref={card}
      aria-label="What can be done here"
      className="hand-card absolute top-0 left-0 z-20 grid grid-cols-2 border border-line bg-raised p-2 text-[13px]"
    >
      {title && (
        <h2 className="col-span-2 max-w-72 truncate px-2 pb-1 font-serif text-[15px] italic">{title}</h2>
      )}
      {ids.flatMap(wordsOf).map((id) => (
        <ActionWord key={id} id={id} onDone={onClose} />
      ))}
    </section>
  );
}

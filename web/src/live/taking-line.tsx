import type { Desk } from '../desk/index.ts';
import { useStore } from '../state/index.ts';
import { takingOn } from './taking.ts';

/** How far the pictures are that are being taken, and the word that stops them. */
export function TakingLine({ desk }: { desk: Desk }) {
  const { taking } = useStore(takingOn(desk));
  if (!taking) return null;
  const { words, done, total, stop } = taking;
  return (
    <p role="status" className="mt-1.5 flex items-baseline gap-3">
      <span>
        {words} <span className="figures">{done.toLocaleString('en')}</span> of{' '}
        <span className="figures">{total.toLocaleString('en')}</span>
      </span>
      <button type="button" className="ml-auto underline underline-offset-3" onClick={stop}>
        stop
      </button>
    </p>
  );
}

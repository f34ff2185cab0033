import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { SavedMark } from './saved-mark.tsx';
import { type Trouble, TroubleTongue } from './trouble-tongue.tsx';

/** The strip along the top: where am I, and is everything saved. */
export function Lintel({
  children,
  status,
  troubles = [],
}: {
  children?: ReactNode;
  /** What is coming in. */
  status?: ReactNode;
  /** What is wrong on this page alone. */
  troubles?: readonly Trouble[];
}) {
  return (
    <header className="relative z-30 flex h-9 shrink-0 items-center gap-4 border-line border-b bg-paper px-3.5">
      <Link to="/boards" className="font-serif text-[17px] tracking-[-0.01em]">
        Miradero
      </Link>
      <span className="h-4 w-px bg-line" aria-hidden />
      <div className="flex min-w-0 flex-1 items-center gap-3 max-md:overflow-x-auto max-md:[scrollbar-width:none]">
        {children}
      </div>
      {status}
      <SavedMark />
      <TroubleTongue more={troubles} />
    </header>
  );
}

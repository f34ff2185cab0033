import { type ReactNode, useState } from 'react';
import { recall, remember } from '../../state/index.ts';

/** A line of a label: what it is, and its figure or words. */
export function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline justify-between gap-3 border-line border-t py-[5px]">
      <dt className="shrink-0 text-muted">{name}</dt>
      <dd className="min-w-0 text-right">{children}</dd>
    </div>
  );
}

/** A chapter of a label. */
export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-line border-t pt-2 pb-3">
      <h2 className="mb-1 font-serif text-[15px] text-muted italic">{title}</h2>
      {children}
    </section>
  );
}

const FOLDS_KEY = 'miradero-open-chapters';

/** Chapters of labels that stand open; closed ones tell the most important of them in their heading. */
function keptFolds(): Readonly<Record<string, boolean>> {
  try {
    const kept: unknown = JSON.parse(recall(FOLDS_KEY) ?? '{}');
    return typeof kept === 'object' && kept !== null ? (kept as Record<string, boolean>) : {};
  } catch {
    return {};
  }
}

/** A chapter that can be folded; whether it is, is kept for every picture. */
export function Fold({
  title,
  brief,
  isOpen = false,
  as: Heading = 'h2',
  children,
}: {
  title: string;
  /** What is told of it beside its title while it is folded. */
  brief?: ReactNode;
  /** As long as nobody chose. */
  isOpen?: boolean;
  as?: 'h2' | 'h3';
  children: ReactNode;
}) {
  const [open, setOpen] = useState(() => keptFolds()[title] ?? isOpen);
  return (
    <details
      open={open}
      className="border-line border-t"
      onToggle={(event) => {
        const now = event.currentTarget.open;
        if (now === open) return;
        setOpen(now);
        remember(FOLDS_KEY, JSON.stringify({ ...keptFolds(), [title]: now }));
      }}
    >
      <summary className="flex cursor-pointer list-none items-baseline gap-3 py-1.5 text-[13px] pointer-coarse:min-h-10 pointer-coarse:items-center">
        <Heading className="shrink-0">{title}</Heading>
        <span className="min-w-0 flex-1 truncate text-right text-muted">{!open && brief}</span>
        <span aria-hidden className={`text-[12px] text-muted ${open ? 'rotate-180' : ''}`}>
          ▾
        </span>
      </summary>
      <div className="pb-3">{children}</div>
    </details>
  );
}

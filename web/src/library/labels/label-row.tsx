import type { ReactNode } from 'react';

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

/** "This, not that": which of the two the words below it say. */
export function ThisOrThat({ isNot, onChange }: { isNot: boolean; onChange: (isNot: boolean) => void }) {
  return (
    <div className="flex gap-4 text-[13px]">
      {[false, true].map((no) => (
        <button
          key={String(no)}
          type="button"
          aria-pressed={isNot === no}
          className="choice"
          onClick={() => onChange(no)}
        >
          {no ? 'not that' : 'this'}
        </button>
      ))}
    </div>
  );
}

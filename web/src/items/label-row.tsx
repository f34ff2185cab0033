import type { ReactNode } from 'react';

/** One fact of a wall label. */
export function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline justify-between border-line border-t py-[5px]">
      <dt className="text-muted">{name}</dt>
      <dd className="figures">{children}</dd>
    </div>
  );
}

/** A day, as facts tell it. */
export const DATE = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

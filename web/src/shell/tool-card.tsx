import type { ReactNode } from 'react';

/** What a tool shows beside the pictures: at the right, or at the left where it would lie over what it is about. */
export function ToolCard({
  label,
  isLeft = false,
  isExact,
  isBusy,
  testId,
  children,
}: {
  label: string;
  isLeft?: boolean;
  /** What it says is of all pixels. */
  isExact?: boolean | undefined;
  isBusy?: boolean;
  testId?: string;
  children: ReactNode;
}) {
  return (
    <aside
      aria-label={label}
      data-testid={testId}
      data-exact={isExact || undefined}
      aria-busy={isBusy}
      className={`absolute top-3 ${isLeft ? 'left-3' : 'right-3'} z-10 max-h-[calc(100%-24px)] w-[264px] overflow-auto border border-line bg-raised px-3.5 py-3 text-[13px] text-ink max-md:inset-x-2 max-md:top-auto max-md:bottom-2 max-md:max-h-[50%] max-md:w-auto`}
    >
      {children}
    </aside>
  );
}

import { useSyncExternalStore } from 'react';
import type { Desk } from '../desk/index.ts';

/** What just happened, in words; and on an empty board what to do next. */
export function NoticeCard({ desk, isEmpty }: { desk: Desk; isEmpty: boolean }) {
  useSyncExternalStore(desk.subscribe, desk.version);
  const { notice } = desk;
  return (
    <>
      {isEmpty && desk.mode.kind === 'rest' && (
        <div className="pointer-events-none absolute inset-0 grid place-items-center pl-[34px]">
          <div className="max-w-sm border border-line bg-raised px-7 py-6 text-ink">
            <h2 className="font-serif text-[22px]">An empty board</h2>
            <p className="mt-2 text-muted leading-relaxed">
              Drop pictures anywhere, paste one with <kbd className="key">Ctrl V</kbd>, or press{' '}
              <kbd className="key">C</kbd> to choose files. <kbd className="key">W</kbd> writes a note.
            </p>
          </div>
        </div>
      )}
      <div role="status" aria-live="polite" className="absolute bottom-3 left-[46px] z-20">
        {notice && (
          <div className="max-w-md border border-line bg-raised px-4 py-3 text-[13px] text-ink">
            <div className="flex items-start gap-6">
              <p className="font-medium">{notice.text}</p>
              <button
                type="button"
                className="ml-auto text-muted underline underline-offset-3"
                onClick={() => desk.unsay()}
              >
                Close
              </button>
            </div>
            {notice.detail.map((line) => (
              <p key={line} className="mt-1 text-muted">
                {line}
              </p>
            ))}
          </div>
        )}
      </div>
    </>
  );
}

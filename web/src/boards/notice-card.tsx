import { SHEET_ID } from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';
import { Notice } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { ActionWord } from './action-word.tsx';

/** What just happened, in words; and on an empty board what to do next. */
export function NoticeCard({ desk, isWhole }: { desk: Desk /** All of a board. */; isWhole: boolean }) {
  const notice = useStore(desk.store, ({ notice }) => notice);
  const isIdle = useStore(desk.store, ({ tool, arrivals }) => !tool && arrivals.length === 0);
  const isEmpty = useStore(
    desk.session.store,
    () => desk.session.standing.length === 0 && !desk.session.items.has(SHEET_ID),
  );
  return (
    <>
      {isWhole && isEmpty && isIdle && (
        <div className="pointer-events-none absolute inset-0 grid place-items-center pl-[34px]">
          <div className="mx-3 max-w-sm border border-line bg-raised px-7 py-6 text-ink">
            <h2 className="font-serif text-[22px]">An empty board</h2>
            <p className="mt-2 text-muted leading-relaxed">
              Drop pictures anywhere on it, paste one, or choose files. They come in at once, beside each
              other, and are kept on this computer before they are sent.
            </p>
            <div className="-mx-1.5 pointer-events-auto mt-3 flex flex-wrap">
              {['choose-files', 'paste', 'by-address', 'write'].map((id) => (
                <ActionWord key={id} id={id} />
              ))}
            </div>
          </div>
        </div>
      )}
      <div role="status" aria-live="polite" className="absolute bottom-3 left-[46px] z-20 mr-3">
        <Notice
          notice={notice}
          onClose={() => desk.unsay()}
          className="max-h-[40vh] max-w-md px-4 py-3 text-[13px]"
        />
      </div>
    </>
  );
}

import type { ReactNode } from 'react';
import type { Desk } from '../desk/index.ts';
import { offerOf } from '../items/index.ts';
import { useMade, useStore } from '../state/index.ts';
import { ActionWord } from './action-word.tsx';
import { NamingLine } from './naming-line.tsx';

/** The strip along the bottom: what can be done with what is selected right now, as words with their key. */
export function Sill({ desk, zoom, perch }: { desk: Desk; zoom: ReactNode; perch: ReactNode }) {
  const { title, ids, hint } = useMade(desk.watch, () => offerOf(desk));
  const isNaming = useStore(desk.store, ({ naming }) => naming.length > 0);
  return (
    <footer className="flex h-11 shrink-0 items-center gap-1 border-line border-t bg-paper px-3.5">
      {isNaming ? (
        <NamingLine desk={desk} />
      ) : (
        <>
          {title && (
            <>
              <span className="max-w-48 shrink-0 truncate font-serif text-[15px] italic max-md:max-w-24">
                {title}
              </span>
              <span className="mx-1.5 h-4 w-px shrink-0 bg-line" aria-hidden />
            </>
          )}
          <div className="sill-words flex min-w-0 flex-1 items-center overflow-x-auto">
            {hint && <span className="shrink-0 whitespace-nowrap pr-2 text-muted max-md:hidden">{hint}</span>}
            {ids.map((id) => (
              <ActionWord key={id} id={id} desk={desk} />
            ))}
          </div>
        </>
      )}
      {/* Neither goes while a line is typed: the perch would close with its button. */}
      {zoom}
      {perch}
    </footer>
  );
}

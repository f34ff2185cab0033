import type { ReactNode } from 'react';
import type { Desk } from '../desk/index.ts';
import { offerOf } from '../items/index.ts';
import { type Fitting, FittingRow, useNarrow } from '../shell/index.ts';
import { useMade, useStore } from '../state/index.ts';
import { ActionWord } from './action-word.tsx';
import { FAMILIES } from './families.tsx';
import { FamilyList, FamilyWord, isOnIn } from './family-word.tsx';
import { NamingLine } from './naming-line.tsx';

/** Reached from every sill, whatever is selected. */
const ALWAYS = ['keys', 'palette'];

/** The strip along the bottom: what can be done with what is selected right now, as words with their key. */
export function Sill({ desk, zoom, perch }: { desk: Desk; zoom: ReactNode; perch: ReactNode }) {
  const { title, ids, hint, on } = useMade(desk.watch, () => offerOf(desk));
  const isNaming = useStore(desk.store, ({ naming }) => naming.length > 0);
  const canUndo = useStore(desk.sync.steps.store, ({ undo }) => undo !== undefined);
  const canRedo = useStore(desk.sync.steps.store, ({ redo }) => redo !== undefined);
  const isNarrow = useNarrow();
  const word = (id: string): Fitting => {
    const family = FAMILIES.get(id);
    if (!family) return { id, node: <ActionWord id={id} {...isOnIn(on, id)} /> };
    return {
      id,
      node: <FamilyWord family={family} desk={desk} />,
      inRest: (
        <div className="flex flex-col items-start">
          <FamilyList family={family} desk={desk} onDone={() => {}} />
        </div>
      ),
    };
  };
  const can = desk.tool?.canStep?.bind(desk.tool);
  const turns = [
    ...((can?.('undo') ?? canUndo) ? ['undo'] : []),
    ...((can?.('redo') ?? canRedo) ? ['redo'] : []),
  ];
  // Where there is no room beside the other words they are among the rest.
  const beside = isNarrow ? turns.slice(0, 1) : [...turns, ...ALWAYS];
  const also = isNarrow ? [...turns.slice(1), ...ALWAYS] : [];
  const said: readonly Fitting[] =
    hint && !isNarrow
      ? [
          {
            id: 'hint',
            isExtra: true,
            node: <span className="whitespace-nowrap pr-2 text-muted">{hint}</span>,
          },
        ]
      : [];
  return (
    <footer className="flex h-11 shrink-0 items-center gap-1 border-line border-t bg-paper px-3.5 max-md:px-2">
      {isNaming ? (
        <NamingLine desk={desk} />
      ) : (
        <>
          {title && (
            <>
              <span className="max-w-48 shrink-0 truncate font-serif text-[15px] italic max-md:max-w-20">
                {title}
              </span>
              <span className="mx-1.5 h-4 w-px shrink-0 bg-line max-md:mx-0.5" aria-hidden />
            </>
          )}
          <FittingRow
            className="sill-words"
            items={[...said, ...ids.map(word)]}
            moreWords={() => 'more'}
            label="What else can be done"
            also={also.map(word)}
          />
          {beside.map((id) => (
            <ActionWord key={id} id={id} />
          ))}
        </>
      )}
      {/* Neither goes while a line is typed: the perch would close with its button. */}
      {!isNarrow && zoom}
      {perch}
    </footer>
  );
}

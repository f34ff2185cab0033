import type { Desk } from '../desk/index.ts';
import { offerOf } from '../items/index.ts';
import { PopoverCard } from '../shell/index.ts';
import { useMade } from '../state/index.ts';
import { ActionWord } from './action-word.tsx';
import type { Family } from './families.tsx';

/** For a word of what is offered: whether its state holds, where it has one. */
export const isOnIn = (on: readonly string[] | undefined, id: string): { isOn?: boolean } =>
  on?.includes(id) ? { isOn: true } : {};

/** The few of a family, chapter by chapter. */
export function FamilyList({ family, desk, onDone }: { family: Family; desk: Desk; onDone: () => void }) {
  const { on } = useMade(desk.watch, () => ({ on: offerOf(desk).on }));
  return (
    <>
      {family.chapters.map(({ title, ids }) => (
        <section key={title} className="flex flex-col items-start">
          <h2 className="px-1.5 pt-1.5 text-[12px] text-muted">{title}</h2>
          {ids.map((id) => (
            <ActionWord key={id} id={id} onDone={onDone} {...isOnIn(on, id)} />
          ))}
        </section>
      ))}
      {family.Settings?.map((Setting, index) => (
        <Setting key={index} desk={desk} onDone={onDone} />
      ))}
    </>
  );
}

/** One word of the sill that opens its few. */
export const FamilyWord = ({ family, desk }: { family: Family; desk: Desk }) => (
  <PopoverCard
    word={family.label}
    label={family.label}
    name={family.id}
    side="top"
    align="start"
    className="flex flex-wrap items-start gap-x-4 gap-y-1 p-3"
  >
    {(close) => <FamilyList family={family} desk={desk} onDone={close} />}
  </PopoverCard>
);

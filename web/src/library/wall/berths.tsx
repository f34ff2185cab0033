import type { Board, Subject } from '@miradero/core/schema';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { byName } from '../../commands/index.ts';
import { OWN_DRAG } from '../../gather/index.ts';
import { useBoards, useSubjects } from '../../shell/index.ts';

interface Berth {
  readonly id: string;
  readonly words: string;
  readonly name: string;
  readonly isInner: boolean;
  take(ids: readonly string[]): void;
}

/** More than this are not looked through: they are found by typing. */
const MOST_FOUND = 40;

/**
 * Where what is dragged or selected can go: boards, and parts of subjects. Shown while something is dragged, or when asked
 * for: then its field has the keyboard, and gives it back.
 */
export function Berths({
  isAsked,
  onBoard,
  onPart,
  onClose,
}: {
  isAsked: boolean;
  onBoard: (board: Board, ids: readonly string[]) => void;
  onPart: (subject: Subject, part: { id: string; name: string }, ids: readonly string[]) => void;
  onClose: () => void;
}) {
  const { data: boards = [] } = useBoards();
  const { data: subjects = [] } = useSubjects();
  const [words, setWords] = useState('');
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (!isAsked) return;
    const before = document.activeElement;
    field.current?.focus();
    return () => {
      if (before instanceof HTMLElement && before.isConnected) before.focus({ preventScroll: true });
    };
  }, [isAsked]);
  const ofBoards = boards
    .filter(({ putAway }) => !putAway)
    .map(
      (board): Berth => ({
        ...{ id: board.id, words: board.name, name: board.name, isInner: false },
        take: (ids) => onBoard(board, ids),
      }),
    );
  const groups = subjects.map((subject) => {
    const of = (part: { id: string; name: string }, shown: string, isInner = false): Berth => ({
      ...{ id: part.id, words: shown, name: `${subject.name} ${shown}`, isInner },
      take: (ids) => onPart(subject, part, ids),
    });
    return {
      subject,
      berths: [
        of(subject, 'as a whole'),
        ...subject.parts.flatMap((part) => [
          of(part, part.name),
          ...part.parts.map((inner) => of(inner, inner.name, true)),
        ]),
      ],
    };
  });
  const isLooking = words.trim() !== '';
  const found = isLooking
    ? byName([...ofBoards, ...groups.flatMap(({ berths }) => berths)], words, MOST_FOUND)
    : [];
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== 'Escape') return;
    event.stopPropagation();
    if (isLooking) setWords('');
    else onClose();
  };
  const button = ({ id, words: shown, name, isInner, take }: Berth, isAlone = false) => (
    <button
      key={id}
      type="button"
      className={`berth w-full truncate border border-line bg-raised px-2.5 py-1 text-left font-serif text-[14px] ${isInner && !isAlone ? 'ml-3' : ''}`}
      onClick={() => take([])}
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes(OWN_DRAG)) event.preventDefault();
      }}
      onDrop={(event) => {
        const ids = event.dataTransfer.getData(OWN_DRAG);
        if (!ids) return;
        event.preventDefault();
        take(ids.split(','));
      }}
    >
      {isAlone ? name : shown}
    </button>
  );
  return (
    <aside
      aria-label="Where it can go"
      className="flex w-72 shrink-0 flex-col gap-1.5 overflow-y-auto border-line border-l bg-paper px-4 py-3 max-md:absolute max-md:inset-0 max-md:z-10 max-md:w-full max-md:border-l-0"
      onKeyDown={onKeyDown}
    >
      <div className="flex items-baseline justify-between">
        <h2 className="font-serif text-[18px]">To a board or part</h2>
        <button
          type="button"
          className="text-[13px] text-muted underline underline-offset-3"
          onClick={onClose}
        >
          close
        </button>
      </div>
      <input
        ref={field}
        aria-label="Find a board or a part"
        placeholder="find a board or a part"
        maxLength={120}
        className="w-full shrink-0 border border-line bg-raised px-2.5 py-1 placeholder:text-muted"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') found[0]?.take([]);
        }}
      />
      {isLooking ? (
        <>
          {found.map((berth) => button(berth, true))}
          {found.length === 0 && <p className="text-[13px] text-muted italic">Nothing is called that.</p>}
        </>
      ) : (
        <>
          {ofBoards.map((berth) => button(berth))}
          {groups.map(({ subject, berths }) => (
            <section key={subject.id} className="mt-2 grid gap-1.5 pr-3">
              <h2 className="font-serif text-[18px]">{subject.name}</h2>
              {berths.map((berth) => button(berth))}
            </section>
          ))}
        </>
      )}
    </aside>
  );
}

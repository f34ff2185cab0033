import { cleanName } from '@miradero/core/picture';
import type { Board, PatchBoard } from '@miradero/core/schema';
import { useState } from 'react';
import { Sheet, SheetFooter } from '../shell/index.ts';

const FIELD = 'mt-1 block w-full border border-line bg-paper px-2 py-1.5 font-serif text-[16px]';

/** What a board is for: said once, it still tells after a year. */
export function BriefSheet({
  board,
  onKeep,
  onClose,
}: {
  board: Board;
  onKeep: (brief: PatchBoard) => void;
  onClose: () => void;
}) {
  const [question, setQuestion] = useState(board.question);
  const [forWhom, setForWhom] = useState(board.forWhom);
  const [due, setDue] = useState(board.due ?? '');
  const keep = () => {
    const brief: PatchBoard = {
      ...(question.trim() !== board.question && { question: question.trim() }),
      ...(cleanName(forWhom) !== board.forWhom && { forWhom: cleanName(forWhom) }),
      ...((due || null) !== board.due && { due: due || null }),
    };
    if (Object.keys(brief).length > 0) onKeep(brief);
    onClose();
  };
  return (
    <Sheet
      title="Brief"
      about="What this board is for. It stands on its card among the boards, too."
      onClose={onClose}
      className="w-[min(480px,94vw)] px-5 py-4"
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <label className="mt-3 block text-[13px] text-muted">
          Which question does it answer?
          <textarea
            className={`${FIELD} h-20 resize-none text-ink`}
            maxLength={500}
            value={question}
            onChange={(event) => setQuestion(event.target.value)}
          />
        </label>
        <label className="mt-3 block text-[13px] text-muted">
          For whom?
          <input
            className={`${FIELD} text-ink`}
            maxLength={200}
            value={forWhom}
            onChange={(event) => setForWhom(event.target.value)}
          />
        </label>
        <label className="mt-3 block text-[13px] text-muted">
          By when?
          <input
            type="date"
            className={`${FIELD} figures w-auto text-ink`}
            min="1900-01-01"
            max="2999-12-31"
            value={due}
            onChange={(event) => setDue(event.target.value)}
          />
        </label>
        <SheetFooter word="Keep" />
      </form>
    </Sheet>
  );
}

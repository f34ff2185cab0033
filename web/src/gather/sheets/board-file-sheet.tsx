import type { ReceivedBoardFile } from '@miradero/core/schema';
import { Dialog } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import { Sheet, useSync } from '../../shell/index.ts';
import { useStore } from '../../state/index.ts';
import { type IncomingBoard, incomingBoard, leaveBoardFile, readBoardFile } from '../keeping/board-files.ts';

const DAY = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'long',
  hour: '2-digit',
  minute: '2-digit',
});
const PRIMARY = 'border border-ink bg-ink px-3 py-1 text-paper';
const LEAVE = 'px-2 py-1 text-muted underline underline-offset-3';
const count = (number: number, one: string, many: string) =>
  `${number.toLocaleString('en')} ${number === 1 ? one : many}`;

function Footer({ children }: { children: ReactNode }) {
  return <footer className="mt-5 flex flex-wrap items-center justify-end gap-x-4 gap-y-2">{children}</footer>;
}

function Working({ words, share }: { words: string; share: number | undefined }) {
  return (
    <p className="mt-4" role="status">
      {words}
      {share !== undefined && <span className="figures ml-2">{Math.floor(share * 100)}&thinsp;%</span>}
    </p>
  );
}

/** As a board of its own, or into one here that it shares a past with. */
function Asking({ file }: { file: ReceivedBoardFile }) {
  const merging = file.mergesInto.filter(({ changes }) => changes > 0);
  const [into, setInto] = useState<string | null>(merging[0]?.board ?? null);
  const [by, setBy] = useState('');
  const isSame = file.mergesInto.length > 0 && merging.length === 0;
  const option = (value: string | null, words: string, about: string) => (
    <label key={value ?? 'own'} className="flex items-baseline gap-2.5 py-1.5">
      <input type="radio" name="into" checked={into === value} onChange={() => setInto(value)} />
      <span className="min-w-0 break-words">
        {words} <span className="text-[13px] text-muted">{about}</span>
      </span>
    </label>
  );
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void readBoardFile(file, into, by.trim() || null);
      }}
    >
      <p className="mt-1 text-muted">
        {count(file.items, 'thing', 'things')} and {count(file.pictures, 'picture', 'pictures')}, saved on{' '}
        {DAY.format(new Date(file.savedAt))}.
        {file.without > 0 &&
          ` ${count(file.without, 'picture is', 'pictures are')} told of without ${file.without === 1 ? 'its' : 'their'} bytes.`}
      </p>
      <fieldset className="mt-3">
        <legend className="sr-only">What shall become of it</legend>
        {merging.map(({ board, name, changes }) =>
          option(
            board,
            `Merge into “${name}”`,
            `${count(changes, 'change', 'changes')} that ${changes === 1 ? 'is' : 'are'} not here yet`,
          ),
        )}
        {option(null, 'A board of its own', 'beside those that are here')}
      </fieldset>
      {isSame && (
        <p className="mt-2 text-[13px] text-muted">
          Everything that was done to it is on “{file.mergesInto[0]!.name}” already.
        </p>
      )}
      {into !== null && (
        <label className="mt-3 block text-[13px] text-muted">
          Whose changes are they? (may stay empty)
          <input
            className="mt-1 block w-full border border-line bg-paper px-2 py-1.5 font-serif text-[16px] text-ink"
            maxLength={120}
            value={by}
            onChange={(event) => setBy(event.target.value)}
          />
        </label>
      )}
      <Footer>
        <Dialog.Close className={LEAVE}>Leave</Dialog.Close>
        <button type="submit" className={PRIMARY}>
          {into === null ? 'Bring it in' : 'Merge'}
        </button>
      </Footer>
    </form>
  );
}

function Done({ now }: { now: Extract<IncomingBoard, { step: 'done' }> }) {
  const navigate = useNavigate();
  const { board, pictures, changes, known, leftOut } = now.result;
  const isMerged = now.file.mergesInto.some((one) => one.board === board);
  const said = isMerged
    ? `${count(changes, 'change was', 'changes were')} merged${known > 0 ? `; ${count(known, 'was', 'were')} here already` : ''}.`
    : 'It is a board here now.';
  return (
    <>
      <p className="mt-3" role="status">
        {said} {count(pictures, 'picture', 'pictures')} came in.
      </p>
      {leftOut.length > 0 && (
        <section className="mt-3">
          <h3 className="text-[13px] text-muted">Left out: {leftOut.length}</h3>
          <ul className="mt-1 max-h-[30vh] overflow-auto text-[13px]">
            {leftOut.map(({ what, why }, index) => (
              <li key={index} className="break-words border-line border-t py-1.5">
                {what}: {why}
              </li>
            ))}
          </ul>
        </section>
      )}
      <Footer>
        <Dialog.Close className={LEAVE}>Close</Dialog.Close>
        <button
          type="button"
          className={PRIMARY}
          onClick={() => {
            leaveBoardFile();
            void navigate(`/boards/${board}`);
          }}
        >
          Open the board
        </button>
      </Footer>
    </>
  );
}

/** A board that came as a file: what is in it, what shall become of it, and what did. */
export function BoardFileSheet() {
  const { now, waiting } = useStore(incomingBoard);
  const jobs = useStore(useSync().jobs);
  if (!now) return null;
  const title = now.step === 'sending' || now.step === 'failed' ? 'A board as a file' : `“${now.file.name}”`;
  return (
    <Sheet title={<bdi>{title}</bdi>} onClose={leaveBoardFile} className="w-[min(480px,94vw)] px-5 py-4">
      {now.step === 'asking' && <Asking file={now.file} />}
      {now.step === 'done' && <Done now={now} />}
      {now.step === 'sending' && <Working words="It is looked at." share={now.share} />}
      {now.step === 'reading' && <Working words="It is read." share={jobs.get(now.file.id)} />}
      {now.step === 'failed' && (
        <p role="alert" className="mt-3 break-words text-vermilion">
          {now.why}
        </p>
      )}
      {(now.step === 'sending' || now.step === 'failed') && (
        <Footer>
          <Dialog.Close className={LEAVE}>{now.step === 'sending' ? 'Stop' : 'Close'}</Dialog.Close>
        </Footer>
      )}
      {waiting.length > 0 && (
        <p className="mt-2 text-[13px] text-muted">
          After it: {count(waiting.length, 'more board', 'more boards')}.
        </p>
      )}
    </Sheet>
  );
}

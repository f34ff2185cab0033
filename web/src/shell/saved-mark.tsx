import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import type { SavedReport } from '../sync/index.ts';
import { useSaved, useSync } from './sync-context.tsx';

const MB = 1024 * 1024;
const count = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;

function waitingWords({ changes, files }: SavedReport): string {
  return [
    changes > 0 ? count(changes, 'change', 'changes') : '',
    files > 0 ? count(files, 'picture', 'pictures') : '',
  ]
    .filter(Boolean)
    .join(', ');
}

function Words({ report }: { report: SavedReport }) {
  switch (report.state) {
    case 'saved':
      // Nothing waits here; what others did meanwhile nobody can tell.
      return report.reach ? (
        <span className="text-muted">All sent; no server</span>
      ) : (
        <span className="text-verdigris">Saved</span>
      );
    case 'kept':
      return (
        <span>
          Kept on this computer
          <span className="text-muted max-lg:hidden"> · {waitingWords(report)} to send</span>
        </span>
      );
    case 'keeping':
      return <span className="text-muted">…</span>;
    case 'unkept':
      return <span className="text-vermilion">Not kept yet</span>;
  }
}

function UploadLine({ uploads }: { uploads: NonNullable<SavedReport['uploads']> }) {
  const megabytes = (bytes: number) => (bytes / MB).toFixed(1);
  const { channel } = useSync();
  const [isStopped, setIsStopped] = useState(false);
  const setStopped = (to: boolean) => {
    setIsStopped(to);
    channel.post({ kind: 'sending', isStopped: to });
  };
  const words = isStopped
    ? `${uploads.files - uploads.filesDone} kept here, not sent`
    : `Sending ${uploads.filesDone + 1} of ${uploads.files}`;
  return (
    <span className="flex items-center gap-2 text-muted max-lg:hidden" data-testid="uploads">
      {words}
      <progress
        className="h-[3px] w-24 appearance-none bg-line [&::-webkit-progress-bar]:bg-line [&::-webkit-progress-value]:bg-verdigris"
        value={uploads.bytesDone}
        max={Math.max(1, uploads.bytes)}
        aria-label={words}
      />
      <span className="figures">
        {megabytes(uploads.bytesDone)} / {megabytes(uploads.bytes)} MB
      </span>
      <button
        type="button"
        className="underline decoration-1 underline-offset-3"
        onClick={() => setStopped(!isStopped)}
      >
        {isStopped ? 'go on' : 'stop'}
      </button>
    </span>
  );
}

function RefusalList({ onForget, onAgain }: { onForget: () => void; onAgain: () => void }) {
  const { saved } = useSync();
  const [refusals, setRefusals] = useState<Awaited<ReturnType<typeof saved.refusals>>>([]);
  useEffect(() => {
    let isHere = true;
    void saved.refusals().then((list) => isHere && setRefusals(list));
    return () => {
      isHere = false;
    };
  }, [saved]);
  return (
    <>
      <h2 className="font-serif text-lg">Not taken by the server</h2>
      <ul className="my-2 max-h-64 overflow-auto">
        {refusals.map((refusal) => (
          <li key={refusal.id} className="border-line border-t py-1.5">
            <div className="max-h-40 select-text overflow-auto whitespace-pre-wrap break-words font-serif italic">
              {refusal.about}
            </div>
            <div className="text-muted">{refusal.title}</div>
          </li>
        ))}
      </ul>
      <p className="mb-2 text-muted">
        These were taken off again; what they hold is kept here until you throw it away. Everything made after
        them went on.
      </p>
      <div className="flex gap-4">
        <button type="button" className="border border-line bg-paper px-2 py-1" onClick={onForget}>
          Throw away
        </button>
        <button type="button" className="text-muted underline underline-offset-3" onClick={onAgain}>
          Send again
        </button>
      </div>
    </>
  );
}

/** The saved state, always in sight and true: `saved` is the server's word, `kept` that of this computer. */
export function SavedMark() {
  const report = useSaved();
  const { saved } = useSync();
  return (
    <div className="flex items-center gap-4 text-[13px]">
      {report.refused > 0 && (
        <Popover.Root>
          <Popover.Trigger className="text-vermilion underline decoration-1 underline-offset-3">
            {count(report.refused, 'was', 'were')} not taken
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              aria-label="Not taken by the server"
              align="end"
              sideOffset={8}
              className="z-30 w-80 border border-line bg-raised p-4 text-[13px] text-ink"
            >
              <RefusalList
                onForget={() => void saved.forgetRefusals()}
                onAgain={() => void saved.tryAgain()}
              />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
      {report.uploads && !report.reach && <UploadLine uploads={report.uploads} />}
      <output aria-live="polite" data-testid="saved" data-state={report.state}>
        <Words report={report} />
      </output>
    </div>
  );
}

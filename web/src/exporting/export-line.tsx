import { PopoverCard, useSync } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { exportingOf } from './exporting.ts';

const WORD = 'underline decoration-1 underline-offset-3';

/** One quiet line of the lintel: how far what is taken out is, and what was not made. */
export function ExportLine() {
  const sync = useSync();
  const exporting = exportingOf(sync);
  const { running, failures } = useStore(exporting.store);
  const jobs = useStore(sync.jobs);
  const [first] = running;
  if (first === undefined && failures.length === 0) return null;
  const share = running.reduce((sum, id) => sum + (jobs.get(id) ?? 0), 0) / Math.max(1, running.length);
  return (
    <div className="flex min-w-0 items-center gap-4 whitespace-nowrap text-[13px]" data-testid="exporting">
      {first !== undefined && (
        <span className="text-muted">
          <span className="max-md:hidden">Taking out </span>
          <span className="figures">{Math.floor(share * 100)}&thinsp;%</span>{' '}
          <button
            type="button"
            className={WORD}
            onClick={() => {
              for (const id of running) void exporting.stop(id);
            }}
          >
            stop
          </button>
        </span>
      )}
      {failures.length > 0 && (
        <PopoverCard
          word={`${failures.length} not taken out`}
          label="What was not taken out"
          name="not-taken-out"
          side="bottom"
          align="end"
          className="w-80 p-4 text-[13px]"
        >
          {(close) => (
            <>
              <h2 className="font-serif text-lg">What was not taken out</h2>
              <ul className="my-2">
                {failures.map((why, index) => (
                  <li key={index} className="border-line border-t py-1.5">
                    {why}
                  </li>
                ))}
              </ul>
              <button
                type="button"
                className={WORD}
                onClick={() => {
                  close();
                  exporting.forget();
                }}
              >
                I have read it
              </button>
            </>
          )}
        </PopoverCard>
      )}
    </div>
  );
}

import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useRun } from '../../commands/index.ts';
import { Lintel, useBoards, useSync, useTheme } from '../../shell/index.ts';
import { useStore } from '../../state/index.ts';
import { GatherLine } from '../gather-line.tsx';
import { GatherRoom } from '../gather-room.tsx';
import { gatheringOf } from '../keeping/gathering.ts';
import { land } from '../keeping/land.ts';
import type { BroughtFile } from '../reading/brought.ts';

const WIDE = 'block w-full border px-4 py-3 text-left text-[16px]';

/** For a phone, or a narrow slice beside a drawing program: take or choose a photograph, straight to a board. */
export function BringPage() {
  useTheme(undefined);
  const sync = useSync();
  const gathering = gatheringOf(sync);
  const notice = useStore(gathering.store, (report) => report.notice);
  const { data: boards = [] } = useBoards();
  const run = useRun();
  const [parameters, setParameters] = useSearchParams();
  const open = boards.filter(({ putAway }) => !putAway);
  const board = open.find(({ id }) => id === parameters.get('board'));
  const [sent, setSent] = useState<string[]>([]);
  useEffect(() => {
    document.title = 'Bring · Miradero';
  }, []);

  const take = async (files: readonly File[]) => {
    const brought = files.map((file): BroughtFile => ({ kind: 'file', file }));
    const names = await land(sync, brought, board);
    setSent((known) => [...names.map((name) => `${name} → ${board?.name ?? 'landing'}`), ...known]);
  };
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />} />
      <h1 className="sr-only">Bring</h1>
      <GatherRoom {...(board ? { board } : {})} />
      <div className="mx-auto flex w-full max-w-md flex-1 flex-col gap-3 overflow-y-auto px-4 py-5">
        <label className="block">
          <span className="mb-1 block text-muted">Straight to</span>
          <select
            className="w-full border border-line bg-raised px-3 py-2.5 font-serif text-[17px]"
            value={board?.id ?? ''}
            onChange={(event) => setParameters(event.target.value ? { board: event.target.value } : {})}
          >
            <option value="">the landing</option>
            {open.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <label className={`${WIDE} border-ink bg-ink text-paper`}>
          Take a photograph
          <input
            id="take-photo"
            type="file"
            accept="image/*"
            capture="environment"
            className="sr-only"
            onChange={(event) => {
              const files = [...(event.target.files ?? [])];
              event.target.value = '';
              void take(files);
            }}
          />
        </label>
        <label className={`${WIDE} border-line bg-raised`}>
          Choose from this device
          <input
            id="choose-photos"
            type="file"
            accept="image/*,video/*"
            multiple
            className="sr-only"
            onChange={(event) => {
              const files = [...(event.target.files ?? [])];
              event.target.value = '';
              void take(files);
            }}
          />
        </label>
        <div className="grid grid-cols-2 gap-3">
          <button type="button" className={`${WIDE} border-line bg-raised`} onClick={() => run('paste')}>
            Paste
          </button>
          <button type="button" className={`${WIDE} border-line bg-raised`} onClick={() => run('camera')}>
            Camera
          </button>
        </div>
        {notice && (
          <p role="status" className="text-[13px] text-muted">
            {notice}
          </p>
        )}
        <ul aria-label="Sent from here" className="mt-2">
          {sent.map((one, index) => (
            <li key={index} className="border-line border-t py-2 font-serif text-[15px]">
              {one}
            </li>
          ))}
        </ul>
      </div>
    </main>
  );
}

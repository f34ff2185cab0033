import type { KeptPalette, PutPalette, Subject } from '@miradero/core/schema';
import { cellWords, SECTORS } from '@miradero/core/subject';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { EditableName, Sheet, useSubjects } from '../shell/index.ts';
import { RefusedError } from '../sync/index.ts';
import { openColourSheet } from './colour-sheets.ts';
import { KEPT_PALETTES, keepPalette, keptPalettes } from './kept-palettes.ts';
import { standPalette } from './palette-tool.ts';

const WORD = 'underline underline-offset-3';
const FIELD = 'border border-line bg-raised px-1.5 py-0.5 text-[13px]';

/** Every viewpoint there is a word for, the level ones first. */
const VIEWPOINTS = [1, 2, 3, 0]
  .flatMap((band) =>
    Array.from({ length: SECTORS }, (_, sector) => ({ band, sector, words: cellWords(sector, band) })),
  )
  .filter(({ words }, index, all) => all.findIndex((one) => one.words === words) === index);

/** Whether a palette is meant by what is typed: its title, its subject, its colours' names. */
function isMeant(
  { title, swatches, subject }: KeptPalette,
  typed: string,
  subjects: readonly Subject[],
): boolean {
  const of = subjects.find(({ id }) => id === subject)?.name ?? '';
  const words = [title, of, ...swatches.map(({ name, hex }) => `${name} ${hex}`)]
    .join(' ')
    .toLocaleLowerCase();
  return typed
    .toLocaleLowerCase()
    .split(/\s+/)
    .every((word) => words.includes(word));
}

/** Palettes kept for every board: found, named, given to a subject, and put onto this board. */
export function ShelfSheet({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const queries = useQueryClient();
  const { data, isError } = useQuery({ queryKey: KEPT_PALETTES, staleTime: 0, queryFn: keptPalettes });
  const { data: subjects = [] } = useSubjects();
  const [typed, setTyped] = useState('');
  const [marked, setMarked] = useState<readonly string[]>([]);
  const put = (palette: KeptPalette, part: Partial<PutPalette>) =>
    keepPalette(palette.id, { ...palette, ...part }).then(
      () => queries.invalidateQueries({ queryKey: KEPT_PALETTES }),
      (error) =>
        desk.say('The shelf was not altered.', [
          error instanceof RefusedError ? error.message : 'The server is away; it is as it was.',
        ]),
    );
  const shown = (data ?? []).filter((palette) => isMeant(palette, typed.trim(), subjects));
  const [one, two] = marked.flatMap((id) => data?.find((palette) => palette.id === id) ?? []);
  return (
    <Sheet onClose={onClose} className="flex max-h-[88vh] w-[min(640px,94vw)] flex-col px-6 py-5">
      <div className="mb-2 flex items-baseline gap-3">
        <Dialog.Title className="font-serif text-[22px]">Palette shelf</Dialog.Title>
        <input
          type="search"
          aria-label="Find a palette"
          placeholder="find by name, subject or colour"
          className={`${FIELD} min-w-0 flex-1`}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
        <Dialog.Close className="text-[13px] text-muted underline underline-offset-3">close</Dialog.Close>
      </div>
      {isError && <p role="alert">The shelf does not come: the server is away.</p>}
      {data?.length === 0 && (
        <p>Nothing is kept yet: choose “keep on the shelf” on a palette’s wall label.</p>
      )}
      {data && data.length > 0 && shown.length === 0 && <p>None of {data.length} is called like that.</p>}
      <ul className="min-h-0 flex-1 overflow-auto">
        {shown.map((palette) => (
          <ShelfRow
            key={palette.id}
            {...{ palette, subjects }}
            isMarked={marked.includes(palette.id)}
            onMark={() =>
              setMarked((now) =>
                now.includes(palette.id)
                  ? now.filter((id) => id !== palette.id)
                  : [...now, palette.id].slice(-2),
              )
            }
            onPut={(part) => void put(palette, part)}
            onStand={() => {
              onClose();
              standPalette(desk, palette);
            }}
          />
        ))}
      </ul>
      {marked.length === 1 && (
        <p className="border-line border-t pt-2 text-[13px] text-muted">One more is compared with it.</p>
      )}
      {one && two && (
        <p className="border-line border-t pt-2 text-[13px]">
          <button
            type="button"
            className={WORD}
            onClick={() => openColourSheet({ kind: 'compared', desk, palettes: [one, two] })}
          >
            the two side by side
          </button>
        </p>
      )}
    </Sheet>
  );
}

function ShelfRow({
  palette,
  subjects,
  isMarked,
  onMark,
  onPut,
  onStand,
}: {
  palette: KeptPalette;
  subjects: readonly Subject[];
  isMarked: boolean;
  onMark: () => void;
  onPut: (part: Partial<PutPalette>) => void;
  onStand: () => void;
}) {
  const { title, swatches, subject, viewpoint } = palette;
  const name = title || 'Palette';
  return (
    <li className="border-line border-t py-2 text-[13px]">
      <button
        type="button"
        aria-label={`Onto the board: ${name}`}
        className="flex h-9 w-full"
        onClick={onStand}
      >
        {swatches.map(({ hex, share }, index) => (
          <span
            key={`${index} ${hex}`}
            className="h-full"
            style={{ background: hex, flexGrow: Math.max(0.02, share), flexBasis: 0 }}
          />
        ))}
      </button>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <EditableName
          label="Name of the palette"
          className="mx-0 text-[15px]"
          name={name}
          onRename={(next) => onPut({ title: next.slice(0, 200) })}
        />
        <label className="ml-auto flex items-baseline gap-1.5">
          <span className="text-muted">of</span>
          <select
            aria-label={`Subject of ${name}`}
            className={`${FIELD} max-w-[140px]`}
            value={subject ?? ''}
            onChange={({ target }) =>
              onPut(target.value === '' ? { subject: null, viewpoint: null } : { subject: target.value })
            }
          >
            <option value="">no subject</option>
            {subjects.map(({ id, name: of }) => (
              <option key={id} value={id}>
                {of}
              </option>
            ))}
          </select>
          {subject !== null && (
            <select
              aria-label={`Viewpoint of ${name}`}
              className={`${FIELD} max-w-[140px]`}
              value={viewpoint ? `${viewpoint.band} ${viewpoint.sector}` : ''}
              onChange={({ target }) => {
                const [band, sector] = target.value.split(' ').map(Number);
                onPut({ viewpoint: target.value === '' ? null : { band: band!, sector: sector! } });
              }}
            >
              <option value="">from everywhere</option>
              {VIEWPOINTS.map(({ band, sector, words }) => (
                <option key={words} value={`${band} ${sector}`}>
                  {words}
                </option>
              ))}
            </select>
          )}
        </label>
        <button
          type="button"
          aria-label={`Compare ${name}`}
          aria-pressed={isMarked}
          className={`${WORD} aria-pressed:text-verdigris`}
          onClick={onMark}
        >
          compare
        </button>
        <button type="button" className={`${WORD} text-muted`} onClick={() => onPut({ isPutAway: true })}>
          put away
        </button>
      </div>
    </li>
  );
}

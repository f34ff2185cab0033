import { useState } from 'react';
import type { SavedReport } from '../sync/index.ts';
import { useSaved } from './sync-context.tsx';
import { useNarrow } from './use-narrow.ts';

/** Something that is wrong: what happened; what is kept, and what happens next. */
export interface Trouble {
  readonly id: string;
  readonly title: string;
  readonly detail: string;
}

const REACH: Readonly<Record<NonNullable<SavedReport['reach']>, Omit<Trouble, 'id'>>> = {
  'server-gone': {
    title: 'The server does not answer',
    detail: 'What you make is kept on this computer. It is sent by itself as soon as the server is back.',
  },
  'database-gone': {
    title: 'The server cannot reach its database',
    detail: 'What you make is kept on this computer. It is sent by itself as soon as the database is back.',
  },
  'other-database': {
    title: 'Another database is served here now',
    detail:
      'What you make is meant for the one that was here before: it is kept on this computer, and nothing of it is sent to this one.',
  },
  'disk-full': {
    title: 'The server has no room left on its disk',
    detail:
      'What was saved stays saved; what you make now is kept on this computer. Make room on the server, and it is sent by itself.',
  },
};

const KEEPING: Readonly<Record<NonNullable<SavedReport['keeping']>, Omit<Trouble, 'id'>>> = {
  'no-room': {
    title: 'This browser has no room left',
    detail:
      'Your last changes are in this window alone: leave it open. Make room on this computer, and they are kept by themselves.',
  },
  'taken-over': {
    title: 'A newer Miradero is open in another window',
    detail: 'This window can keep nothing any more. What was kept is safe: reload this window to go on.',
  },
};

const OUTDATED: Trouble = {
  id: 'outdated',
  title: 'Miradero was renewed',
  detail:
    'This window still shows the version before. Everything you made is kept: reload when it suits you.',
};

const elsewhereWords = (count: number): Trouble => ({
  id: 'elsewhere',
  title: `${count === 1 ? 'One thing' : `${count} things`} kept for another database`,
  detail:
    'They were made while another database was served at this address, and are kept on this computer. They are sent as soon as that one is served here again.',
});

function troublesOf({ reach, keeping, isOutdated, elsewhere }: SavedReport): Trouble[] {
  return [
    ...(keeping ? [{ id: keeping, ...KEEPING[keeping] }] : []),
    ...(reach ? [{ id: reach, ...REACH[reach] }] : []),
    ...(isOutdated ? [OUTDATED] : []),
    ...(elsewhere > 0 ? [elsewhereWords(elsewhere)] : []),
  ];
}

/** Hangs from the lintel while something is wrong; folded, its title alone stays in sight. */
export function TroubleTongue({ more }: { more: readonly Trouble[] }) {
  const report = useSaved();
  const isNarrow = useNarrow();
  // Where there is little room, what is wrong is told in a line until one wants to know more.
  const [turned, setTurned] = useState<ReadonlySet<string>>(new Set());
  const isFolded = (id: string) => turned.has(id) !== isNarrow;
  const troubles = [...troublesOf(report), ...more];
  const toggle = (id: string) => {
    const next = new Set(turned);
    if (!next.delete(id)) next.add(id);
    setTurned(next);
  };
  return (
    <div role="status" aria-live="polite" className="absolute top-full right-3 z-30 flex flex-col items-end">
      {troubles.map(({ id, title, detail }) => (
        <section
          key={id}
          data-trouble={id}
          className="max-w-[min(420px,88vw)] border border-line border-t-0 bg-raised px-3.5 py-2 text-[13px] text-ink"
        >
          <div className="flex items-baseline gap-4">
            <h2 className="flex-1 font-medium text-vermilion">{title}</h2>
            <button
              type="button"
              aria-expanded={!isFolded(id)}
              className="text-muted underline underline-offset-3"
              onClick={() => toggle(id)}
            >
              {isFolded(id) ? 'more' : 'fold'}
            </button>
          </div>
          {!isFolded(id) && <p className="mt-1 text-muted">{detail}</p>}
        </section>
      ))}
    </div>
  );
}

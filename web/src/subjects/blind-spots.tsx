import type { Subject, View } from '@miradero/core/schema';
import { BANDS, type Coverage, cellWords, type Gap, SECTORS, sectorMiddleDeg } from '@miradero/core/subject';
import { useState } from 'react';
import type { Aim } from '../gather/index.ts';
import { Globe } from './globe.tsx';
import { NO_VIEW } from './view-dials.tsx';

/** Gaps shown before one asks for more. */
const FIRST = 9;

const viewOf = (sector: number, band: number): View => ({
  ...NO_VIEW,
  azimuthDeg: sectorMiddleDeg(sector),
  elevationDeg: BANDS[band]!.middle,
});

/** What one goes out to look for, to close a gap. */
function aimOf(subject: Subject, gap: Gap): Aim {
  const part = gap.part ?? subject.id;
  const isNamedView = gap.kind === 'view' && !gap.words.includes('any view');
  if (isNamedView)
    return { words: gap.words, subject: subject.id, part, view: viewOf(gap.sector!, gap.band!) };
  if (gap.distance)
    return { words: gap.words, subject: subject.id, part, view: { ...NO_VIEW, distance: gap.distance } };
  return { words: gap.words, subject: subject.id, part };
}

const REASONS: Readonly<Record<Gap['kind'], string>> = {
  view: 'no picture from there',
  light: 'no picture in such light',
  distance: 'no picture from there',
  part: 'no picture at all',
  scale: 'nothing to scale',
  flat: 'only flat light, which hides the form',
};

function Counts({ title, counts }: { title: string; counts: Readonly<Record<string, number>> }) {
  return (
    <p className="flex flex-wrap gap-x-4 text-[13px]">
      <span className="text-muted">{title}</span>
      {Object.entries(counts).map(([words, count]) => (
        <span key={words} className={count === 0 ? 'text-vermilion' : ''}>
          {words} <span className="figures">{count}</span>
        </span>
      ))}
    </p>
  );
}

/** The views, lights and distances of a subject that no picture shows yet, and the way to each. */
export function BlindSpots({
  subject,
  coverage,
  onGather,
  onShow,
}: {
  subject: Subject;
  coverage: Coverage;
  onGather: (aim: Aim) => void;
  onShow: (pictures: readonly string[] | undefined) => void;
}) {
  const [cell, setCell] = useState<number>();
  const [isAll, setAll] = useState(false);
  const covered = coverage.cells.filter((pictures) => pictures.length > 0).length;
  const at = cell === undefined ? undefined : { sector: cell % SECTORS, band: Math.floor(cell / SECTORS) };
  const gaps = isAll ? coverage.gaps : coverage.gaps.slice(0, FIRST);
  const word = 'whitespace-nowrap text-[13px] underline underline-offset-3';
  return (
    <section aria-label="Blind spots">
      <h2 className="font-serif text-[22px]">Blind spots</h2>
      <p className="mb-1 text-[13px] text-muted">
        <span className="figures">{covered}</span> of <span className="figures">{coverage.cells.length}</span>{' '}
        views are covered
        {coverage.withoutView > 0 && (
          <>
            ; of <span className="figures">{coverage.withoutView}</span>{' '}
            {coverage.withoutView === 1 ? 'picture' : 'pictures'} nobody said the view
          </>
        )}
      </p>
      <Globe
        coverage={coverage}
        chosen={cell}
        onChoose={(next) => {
          setCell(next === cell ? undefined : next);
          const pictures = coverage.cells[next]!;
          onShow(next === cell || pictures.length === 0 ? undefined : pictures);
        }}
      />
      {at && coverage.cells[cell!]!.length === 0 && (
        <p className="flex items-baseline gap-3 pb-1 text-[13px]">
          Nothing shows it from the {cellWords(at.sector, at.band)}.
          <button
            type="button"
            className={word}
            onClick={() =>
              onGather({
                words: `${subject.name}: ${cellWords(at.sector, at.band)}`,
                ...{ subject: subject.id, part: subject.id, view: viewOf(at.sector, at.band) },
              })
            }
          >
            gather for it
          </button>
        </p>
      )}
      <Counts title="light" counts={coverage.lights} />
      <Counts title="distance" counts={coverage.distances} />
      <ul className="mt-3">
        {gaps.map((gap) => (
          <li key={gap.kind + gap.words} className="flex items-baseline gap-3 border-line border-t py-1">
            <span className="min-w-0 flex-1">
              <span className="font-serif text-[15px]">{gap.words.slice(subject.name.length + 2)}</span>{' '}
              <span className="text-[12px] text-muted">{REASONS[gap.kind]}</span>
            </span>
            <button
              type="button"
              className={word}
              aria-label={`Gather for ${gap.words}`}
              onClick={() => onGather(aimOf(subject, gap))}
            >
              gather for it
            </button>
          </li>
        ))}
      </ul>
      {coverage.gaps.length > FIRST && (
        <button type="button" className={`${word} mt-1 text-muted`} onClick={() => setAll(!isAll)}>
          {isAll ? 'only what hurts most' : `all ${coverage.gaps.length}`}
        </button>
      )}
    </section>
  );
}

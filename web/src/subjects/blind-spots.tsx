import type { DistanceStep, Picture, Subject, View } from '@miradero/core/schema';
import {
  BANDS,
  type Coverage,
  cellWords,
  coverageOf,
  type Gap,
  type LightName,
  lightOf,
  SECTORS,
  type Serving,
  sectorMiddleDeg,
} from '@miradero/core/subject';
import { useMemo, useState } from 'react';
import { type Aim, LookElsewhere, wordsToAsk } from '../gather/index.ts';
import { Globe } from './globe.tsx';
import { NO_VIEW } from './view-dials.tsx';

const DISTANCE_WORDS = {
  near: 'from near',
  middle: 'from a middle distance',
  far: 'from far',
} as const satisfies Record<DistanceStep, string>;

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

/** How often each of some words was said; a press shows the views of those pictures alone. */
function Counts<T extends string>({
  title,
  counts,
  chosen,
  onChoose,
}: {
  title: string;
  counts: Readonly<Record<T, number>>;
  chosen: T | undefined;
  onChoose: (words: T | undefined) => void;
}) {
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 text-[13px]">
      <span className="text-muted">{title}</span>
      {(Object.entries(counts) as [T, number][]).map(([words, count]) => (
        <button
          key={words}
          type="button"
          aria-pressed={chosen === words}
          className={`aria-pressed:underline aria-pressed:underline-offset-4 ${count === 0 ? 'text-vermilion' : ''}`}
          onClick={() => onChoose(chosen === words ? undefined : words)}
        >
          {words} <span className="figures">{count}</span>
        </button>
      ))}
    </p>
  );
}

/** As coverage wants to know a picture. */
const servingOf = (picture: Picture, subject: Subject): Serving => ({
  ...{ id: picture.id, parts: picture.parts, view: picture.views[subject.id], isToScale: picture.isToScale },
  modelling: picture.measures?.modelling ?? null,
  isModel: picture.kind === 'model',
});

/** Coverage by those pictures alone that were taken in one light, from one distance, or both. */
function useCoverageIn(
  coverage: Coverage,
  pictures: readonly Picture[],
  subject: Subject,
  light: LightName | undefined,
  distance: DistanceStep | undefined,
): Coverage {
  return useMemo(() => {
    if (!light && !distance) return coverage;
    const some = pictures
      .map((picture) => servingOf(picture, subject))
      .filter(
        ({ view }) =>
          (!light || (view && lightOf(view) === light)) && (!distance || view?.distance === distance),
      );
    return coverageOf(subject, some);
  }, [coverage, pictures, subject, light, distance]);
}

/** The views, lights and distances of a subject that no picture shows yet, and the way to each. */
export function BlindSpots({
  subject,
  coverage,
  pictures,
  onGather,
  onShow,
}: {
  subject: Subject;
  coverage: Coverage;
  pictures: readonly Picture[];
  onGather: (aim: Aim) => void;
  onShow: (pictures: readonly string[] | undefined) => void;
}) {
  const [cell, setCell] = useState<number>();
  const [isAll, setAll] = useState(false);
  const [light, setLight] = useState<LightName>();
  const [distance, setDistance] = useState<DistanceStep>();
  const shown = useCoverageIn(coverage, pictures, subject, light, distance);
  const covered = shown.cells.filter((pictures) => pictures.length > 0).length;
  const at = cell === undefined ? undefined : { sector: cell % SECTORS, band: Math.floor(cell / SECTORS) };
  const gaps = isAll ? coverage.gaps : coverage.gaps.slice(0, FIRST);
  const word = 'whitespace-nowrap text-[13px] underline underline-offset-3';
  return (
    <section aria-label="Blind spots">
      <h2 className="font-serif text-[22px]">Blind spots</h2>
      <p className="mb-1 text-[13px] text-muted">
        <span className="figures">{covered}</span> of <span className="figures">{coverage.cells.length}</span>{' '}
        views are covered
        {light ? ` in light ${light}` : ''}
        {distance ? `, ${DISTANCE_WORDS[distance]}` : ''}
        {coverage.withoutView > 0 && (
          <>
            ; of <span className="figures">{coverage.withoutView}</span>{' '}
            {coverage.withoutView === 1 ? 'picture' : 'pictures'} nobody said the view
          </>
        )}
      </p>
      <Globe
        coverage={shown}
        chosen={cell}
        onChoose={(next) => {
          setCell(next === cell ? undefined : next);
          const there = shown.cells[next]!;
          onShow(next === cell || there.length === 0 ? undefined : there);
        }}
      />
      {at && shown.cells[cell!]!.length === 0 && (
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
      <Counts title="light" counts={coverage.lights} chosen={light} onChoose={setLight} />
      <Counts title="distance" counts={coverage.distances} chosen={distance} onChoose={setDistance} />
      <ul className="mt-3">
        {gaps.map((gap) => (
          <li key={gap.kind + gap.words} className="flex items-baseline gap-3 border-line border-t py-1">
            <span className="min-w-0 flex-1">
              <span className="font-serif text-[15px]">{gap.words.slice(subject.name.length + 2)}</span>{' '}
              <span className="text-[12px] text-muted">{REASONS[gap.kind]}</span>
            </span>
            <LookElsewhere
              words={wordsToAsk(gap)}
              aim={aimOf(subject, gap)}
              label={`Look elsewhere for ${gap.words}`}
              className={`${word} text-muted`}
            />
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

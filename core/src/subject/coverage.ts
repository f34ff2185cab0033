import { DISTANCES, type DistanceStep, type Subject, type View } from '../schema/index.ts';
import {
  BANDS,
  bandOf,
  cellWords,
  LIGHTS,
  type LightName,
  lightOf,
  SECTORS,
  sectorOf,
} from './view-cells.ts';

/** What coverage needs to know of a picture. */
export interface Serving {
  readonly id: string;
  /** Ids of parts, and of the subject itself. */
  readonly parts: readonly string[];
  readonly view: View | undefined;
  readonly isToScale: boolean;
  /** Munsell value steps that the light spreads the forms over; null where it was not measured. */
  readonly modelling: number | null;
  /** It is a model: turned to any view, and none itself. */
  readonly isModel?: boolean;
}

/** Light that spreads forms over less than this, Munsell value steps, hides them. The demo's soft light stays below it, its side and raking light above (`demo/truth/subject.test.ts`). */
export const FLAT_BELOW = 3;

export interface PartCoverage {
  readonly id: string;
  readonly name: string;
  /** 0 for a part, 1 for a part of a part. */
  readonly depth: 0 | 1;
  /** Pictures given to it, or to a part of it. */
  readonly pictures: readonly string[];
  readonly toScale: number;
  /** Every picture of it that was measured lies in flat light, and there is one at least. */
  readonly isFlatOnly: boolean;
}

/** A line of a subject's checklist. What pictures tell of it is undefined until it was asked for. */
export interface PartLine {
  readonly id: string;
  readonly name: string;
  readonly depth: 0 | 1;
  readonly coverage: PartCoverage | undefined;
}

/** Parts in the order of the checklist, each with what is known of its pictures: a part that was just named stands there, too. */
export function partLines(parts: Subject['parts'], coverage: Coverage | undefined): PartLine[] {
  const known = new Map(coverage?.parts.map((part) => [part.id, part]));
  const line = ({ id, name }: { id: string; name: string }, depth: 0 | 1): PartLine => ({
    ...{ id, name, depth, coverage: known.get(id) },
  });
  return parts.flatMap((part) => [line(part, 0), ...part.parts.map((inner) => line(inner, 1))]);
}

/** A thing that no picture shows yet. `words` go into a search as they are. */
export interface Gap {
  readonly kind: 'view' | 'light' | 'distance' | 'part' | 'scale' | 'flat';
  readonly words: string;
  /** 0..1: how much its absence hurts. */
  readonly weight: number;
  readonly part?: string;
  readonly sector?: number;
  readonly band?: number;
  readonly light?: LightName;
  readonly distance?: DistanceStep;
}

export interface Coverage {
  /** Pictures of each view, by band and sector: `cells[band * SECTORS + sector]`. */
  readonly cells: readonly (readonly string[])[];
  readonly lights: Readonly<Record<LightName, number>>;
  readonly distances: Readonly<Record<DistanceStep, number>>;
  readonly parts: readonly PartCoverage[];
  /** Pictures of the subject of which nobody said from where they show it. */
  readonly withoutView: number;
  readonly gaps: readonly Gap[];
}

/** How much a view is missed: one walks round a thing at its own height first. */
const BAND_WEIGHTS = [0.35, 0.95, 0.7, 0.4] as const;

const flatOnly = (pictures: readonly Serving[]): boolean => {
  const measured = pictures.filter(({ modelling }) => modelling !== null);
  return measured.length > 0 && measured.every(({ modelling }) => modelling! < FLAT_BELOW);
};

function partsOf(subject: Subject, pictures: readonly Serving[]): PartCoverage[] {
  const cover = (id: string, name: string, depth: 0 | 1, below: readonly string[]): PartCoverage => {
    const own = pictures.filter(({ parts }) => parts.some((part) => part === id || below.includes(part)));
    return {
      ...{ id, name, depth, pictures: own.map((picture) => picture.id) },
      toScale: own.filter(({ isToScale }) => isToScale).length,
      // A drawing to scale has no light at all.
      isFlatOnly: flatOnly(own.filter(({ isToScale }) => !isToScale)),
    };
  };
  return subject.parts.flatMap(({ id, name, parts }) => [
    cover(
      id,
      name,
      0,
      parts.map((part) => part.id),
    ),
    ...parts.map((part) => cover(part.id, part.name, 1, [])),
  ]);
}

/**
 * Views that are missing, neighbours of a band taken together: one gap a run of empty sectors, named by its middle. The
 * wider it is the more it hurts.
 */
function viewGaps(subject: string, cells: readonly (readonly string[])[]): Gap[] {
  return BANDS.flatMap((_, band) => {
    const empty = Array.from(
      { length: SECTORS },
      (_, sector) => cells[band * SECTORS + sector]!.length === 0,
    );
    const runs: { from: number; length: number }[] = [];
    const start = empty.indexOf(false);
    if (start === -1) runs.push({ from: 0, length: SECTORS });
    else
      for (let step = 1; step <= SECTORS; step += 1) {
        const sector = (start + step) % SECTORS;
        if (!empty[sector]) continue;
        const last = runs[runs.length - 1];
        if (last && (last.from + last.length) % SECTORS === sector) last.length += 1;
        else runs.push({ from: sector, length: 1 });
      }
    return runs.map(({ from, length }): Gap => {
      const sector = (from + Math.floor((length - 1) / 2)) % SECTORS;
      const words = length === SECTORS ? `any view ${BANDS[band]!.name}` : cellWords(sector, band);
      return {
        ...{ kind: 'view', words: `${subject}: ${words}`, sector, band },
        weight: BAND_WEIGHTS[band]! * Math.min(1, 0.25 + length / SECTORS),
      };
    });
  });
}

/**
 * What pictures show of a subject and what none shows yet: views round it, lights, distances, parts, parts without true
 * dimensions, parts only ever seen in flat light. Gaps that hurt most come first.
 */
export function coverageOf(subject: Subject, pictures: readonly Serving[]): Coverage {
  const cells: string[][] = Array.from({ length: BANDS.length * SECTORS }, () => []);
  const lights = Object.fromEntries(LIGHTS.map((light) => [light, 0])) as Record<LightName, number>;
  const distances = Object.fromEntries(DISTANCES.map((step) => [step, 0])) as Record<DistanceStep, number>;
  let withoutView = 0;
  for (const { id, view, isModel } of pictures) {
    if (isModel) continue;
    if (view?.azimuthDeg == null || view.elevationDeg === null) withoutView += 1;
    else cells[bandOf(view.elevationDeg) * SECTORS + sectorOf(view.azimuthDeg)]!.push(id);
    const light = view && lightOf(view);
    if (light) lights[light] += 1;
    if (view?.distance) distances[view.distance] += 1;
  }
  const parts = partsOf(subject, pictures);
  const gaps: Gap[] = [
    ...viewGaps(subject.name, cells),
    ...LIGHTS.filter((light) => lights[light] === 0).map(
      (light): Gap => ({ kind: 'light', words: `${subject.name}: light ${light}`, weight: 0.6, light }),
    ),
    ...DISTANCES.filter((step) => distances[step] === 0).map(
      (distance): Gap => ({
        kind: 'distance',
        words: `${subject.name}: ${distance === 'near' ? 'from near' : distance === 'far' ? 'from far' : 'from a middle distance'}`,
        weight: 0.45,
        distance,
      }),
    ),
    ...parts
      .filter(({ pictures }) => pictures.length === 0)
      .map(
        (part): Gap => ({
          kind: 'part',
          words: `${subject.name}: ${part.name}`,
          weight: part.depth === 0 ? 1 : 0.8,
          part: part.id,
        }),
      ),
    ...parts
      .filter(({ pictures, toScale, depth }) => depth === 0 && pictures.length > 0 && toScale === 0)
      .map(
        (part): Gap => ({
          kind: 'scale',
          words: `${subject.name}: ${part.name}, plan or elevation`,
          weight: 0.5,
          part: part.id,
        }),
      ),
    ...parts
      .filter(({ isFlatOnly }) => isFlatOnly)
      .map(
        (part): Gap => ({
          kind: 'flat',
          words: `${subject.name}: ${part.name} in raking light`,
          weight: 0.7,
          part: part.id,
        }),
      ),
  ];
  gaps.sort((one, two) => two.weight - one.weight || (one.words < two.words ? -1 : 1));
  return { cells, lights, distances, parts, withoutView, gaps };
}

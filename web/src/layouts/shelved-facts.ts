import type { ShelvedFacts } from '@miradero/core/board';
import type { Placement } from '@miradero/core/items';
import type { Picture, Subject } from '@miradero/core/schema';
import type { Desk } from '../desk/index.ts';
import { ask } from '../sync/index.ts';

function siteOf({ source }: Picture): string | null {
  const address = source.page ?? source.address;
  if (address === null) return source.creator;
  return URL.canParse(address) ? new URL(address).host.replace(/^www\./, '') : null;
}

const partNames = (subjects: readonly Subject[]): Map<string, string> =>
  new Map(
    subjects.flatMap((subject) => [
      [subject.id, subject.name] as const,
      ...subject.parts.flatMap((part) => [
        [part.id, part.name] as const,
        ...part.parts.map(({ id, name }) => [id, `${part.name}: ${name}`] as const),
      ]),
    ]),
  );

/** Names of all parts of subjects, by id. @throws UnreachableError without the server */
export async function namesOfParts(): Promise<ReadonlyMap<string, string>> {
  return partNames((await ask('GET /api/subjects')).subjects);
}

/** What is known of the pictures that stand on a board. @param measured - pictures with their measures, where those are asked for */
export function shelvedFactsOf(
  desk: Desk,
  placements: readonly Placement[],
  parts: ReadonlyMap<string, string>,
  measured: ReadonlyMap<string, Picture>,
): ShelvedFacts[] {
  return placements.map(({ id, picture }) => {
    const shelved = desk.sync.shelf.get(picture);
    const known = shelved?.picture;
    return {
      item: id,
      name: shelved?.name ?? '',
      purposes: known?.purposes.filter(({ isNot }) => !isNot).map(({ purpose }) => purpose) ?? [],
      tags: known?.tags ?? [],
      parts: known?.parts.flatMap((part) => parts.get(part) ?? []) ?? [],
      site: known ? siteOf(known) : null,
      date: known ? (known.facts.takenAt ?? known.addedAt) : null,
      measures: measured.get(picture)?.measures ?? null,
    };
  });
}

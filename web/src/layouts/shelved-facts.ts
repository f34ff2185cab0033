import type { ShelvedFacts } from '@miradero/core/board';
import { type Impression, impressionOf } from '@miradero/core/colour';
import type { Placement } from '@miradero/core/items';
import type { Picture, Subject } from '@miradero/core/schema';
import { thumbHashToRGBA } from 'thumbhash';
import type { Desk } from '../desk/index.ts';
import { ask } from '../sync/index.ts';

const seen = new Map<string, Impression | undefined>();

/** What a picture is at a glance, from the tiny copy that every window has of it: of about 32 by 32 pixels. */
function impressionFrom({ thumbhash }: Picture): Impression | undefined {
  if (thumbhash === null) return undefined;
  if (!seen.has(thumbhash)) {
    const { w, h, rgba } = thumbHashToRGBA(Uint8Array.from(atob(thumbhash), (c) => c.charCodeAt(0)));
    seen.set(thumbhash, impressionOf({ width: w, height: h, data: Uint8ClampedArray.from(rgba) }));
  }
  return seen.get(thumbhash);
}

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

/** The names of parts; of subjects that cannot be asked for now, none is known. */
export async function namesOfParts(): Promise<ReadonlyMap<string, string>> {
  return partNames((await ask('GET /api/subjects')).subjects);
}

export const NO_PARTS: ReadonlyMap<string, string> = new Map();

/** What this window knows of the pictures that stand on a board. */
export function shelvedFactsOf(
  desk: Desk,
  placements: readonly Placement[],
  parts: ReadonlyMap<string, string>,
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
      impression: known && impressionFrom(known),
    };
  });
}

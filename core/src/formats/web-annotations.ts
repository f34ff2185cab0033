import type { Picture, Purpose } from '../schema/index.ts';

/** What of a picture its annotations tell. */
export type AnnotatedPicture = Pick<
  Picture,
  'id' | 'name' | 'sha256' | 'width' | 'height' | 'type' | 'source' | 'note' | 'purposes'
>;

/** Hundred-thousandths of a side are less than a pixel of any picture. */
const percent = (share: number): string => String(Number((share * 100).toFixed(3)));

/** The part of the upright picture that is meant. Source: Media Fragments URI 1.0, 4.2.2. */
function selectorOf({ region }: Purpose): object {
  if (region === null) return {};
  const { x, y, width, height } = region;
  return {
    selector: {
      type: 'FragmentSelector',
      conformsTo: 'http://www.w3.org/TR/media-frags/',
      value: `xywh=percent:${[x, y, width, height].map(percent).join(',')}`,
    },
  };
}

/** The picture as others find it: at its address, else by its bytes. Source: RFC 6920, "Naming Things with Hashes". */
const sourceOf = ({ source, sha256 }: AnnotatedPicture): string => source.address ?? `urn:sha256:${sha256}`;

const bodyOf = (purpose: 'tagging' | 'describing' | 'identifying', value: string): object => ({
  ...{ type: 'TextualBody', value, purpose, format: 'text/plain' },
});

function annotationsOf(picture: AnnotatedPicture): object[] {
  const target = (more: object) => ({
    ...{ type: 'SpecificResource', source: { id: sourceOf(picture), type: 'Image', format: picture.type } },
    ...more,
  });
  const about =
    picture.note.trim() === ''
      ? []
      : [{ motivation: 'describing', body: [bodyOf('describing', picture.note)], target: target({}) }];
  const said = picture.purposes.map((purpose) => ({
    motivation: 'tagging',
    body: [
      bodyOf('tagging', purpose.isNot ? `not ${purpose.purpose}` : purpose.purpose),
      ...(purpose.word ? [bodyOf('describing', purpose.word)] : []),
      ...(purpose.colour ? [bodyOf('identifying', purpose.colour)] : []),
    ],
    target: target(selectorOf(purpose)),
  }));
  return [...about, ...said].map((one, index) => ({
    ...{ id: `urn:uuid:${picture.id}#${index + 1}`, type: 'Annotation' },
    ...one,
  }));
}

/**
 * What was said of pictures and their parts, as a collection of annotations. Source: W3C, Web Annotation Data Model (2017), 3
 * and 5; its JSON-LD context is named, and not fetched.
 *
 * @param name - of the collection
 */
export function annotationsAsJsonLd(name: string, pictures: readonly AnnotatedPicture[]): string {
  const items = pictures.flatMap(annotationsOf);
  return `${JSON.stringify(
    {
      '@context': 'http://www.w3.org/ns/anno.jsonld',
      type: 'AnnotationCollection',
      label: name,
      total: items.length,
      first: { type: 'AnnotationPage', startIndex: 0, items },
    },
    undefined,
    1,
  )}\n`;
}

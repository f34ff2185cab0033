import type { FromSchema } from 'json-schema-to-ts';
import type { Picture } from './picture.ts';

const address = { type: 'string', format: 'text', minLength: 4, maxLength: 4_000 } as const;
const text = { type: 'string', format: 'text', maxLength: 2_000 } as const;

/** `POST /api/gathering/finds`: what is at an address, a picture or a page with pictures. */
export const lookSchema = {
  $id: 'look-at-address',
  type: 'object',
  properties: { address, clipKey: { type: 'string', format: 'text', maxLength: 100 } },
  required: ['address'],
  additionalProperties: false,
} as const;
export type LookAtAddress = FromSchema<typeof lookSchema>;

/** `POST /api/gathering/pictures`: take in the picture at an address. `link`: where it led, to look for a larger one. */
export const fetchPictureSchema = {
  $id: 'fetch-picture',
  type: 'object',
  properties: { address, page: address, name: text, title: text, creator: text, licence: text },
  required: ['address'],
  additionalProperties: false,
} as const;
export type FetchPicture = FromSchema<typeof fetchPictureSchema>;

/** `POST /api/gathering/larger`: follow the link of a small picture to its large one. */
export const fetchLargerSchema = {
  $id: 'fetch-larger',
  type: 'object',
  properties: { picture: { type: 'string', format: 'uuid' }, link: address },
  required: ['picture', 'link'],
  additionalProperties: false,
} as const;
export type FetchLarger = FromSchema<typeof fetchLargerSchema>;

/** `GET /api/gathering/previews`: a small copy of a picture elsewhere, as `page` shows it. */
export const previewQuerySchema = {
  $id: 'preview-query',
  type: 'object',
  properties: { address, page: address },
  required: ['address'],
  additionalProperties: false,
} as const;
export type PreviewQuery = FromSchema<typeof previewQuerySchema>;

/** One picture of a page, in its largest version. Sides in pixels, null where neither page nor file says. */
/** What a page says of a picture of its own, that one wants to know before taking it. */
export const FOUND_MARKS = ['costs', 'watermarked', 'licence'] as const;
export type FoundMark = (typeof FOUND_MARKS)[number];

export interface FoundPicture {
  readonly address: string;
  /** A smaller version of it, to show on the sheet; the same where there is no other. */
  readonly preview: string;
  readonly width: number | null;
  readonly height: number | null;
  readonly alt: string;
  /** The page that it leads to, where that is another one. */
  readonly link: string | null;
  readonly marks: readonly FoundMark[];
}

/** A page and its pictures, in their order; facts of the page where it gives them. */
export interface FoundPage {
  readonly address: string;
  readonly title: string | null;
  readonly creator: string | null;
  readonly licence: string | null;
  readonly pictures: readonly FoundPicture[];
  /** Pictures that were left out because they are small: decoration. */
  readonly leftOut: number;
}

export type Finds =
  /** `isKnown`: the same bytes were here before. */
  | { readonly kind: 'picture'; readonly picture: Picture; readonly isKnown: boolean }
  | { readonly kind: 'page'; readonly page: FoundPage };

/** `isLarger` is false where the page had only the small one. */
export interface LargerAnswer {
  readonly isLarger: boolean;
  readonly picture: Picture;
}

import type { FromSchema } from 'json-schema-to-ts';
import type { Point } from '../../geometry/index.ts';
import { firstLines, type SetText } from '../../typesetting/index.ts';
import { commonNames, commonProperties, itemIdSchema, UPRIGHT } from '../item.ts';
import type { KindOfItem } from '../kind.ts';
import { type Primitive, squareQuad } from '../primitives.ts';

const pixels = { type: ['integer', 'null'], minimum: 1, maximum: 1_000_000 } as const;

/** A page of the web, kept on a board as a card: where it is, what it is called, and a still picture where it has one. */
export const linkSchema = {
  $id: 'link',
  type: 'object',
  properties: {
    id: itemIdSchema,
    kind: { const: 'link' },
    ...commonProperties,
    address: { type: 'string', format: 'text', pattern: '^https?://', maxLength: 2_000 },
    title: { type: 'string', format: 'text', maxLength: 300 },
    /** Whose page it is: its host, where nothing better is known. */
    site: { type: 'string', format: 'text', maxLength: 200 },
    picture: { type: ['string', 'null'], format: 'uuid' },
    /** Of the picture; null without one. */
    pictureWidth: pixels,
    pictureHeight: pixels,
  },
  required: [...commonNames, 'address', 'title', 'site', 'picture', 'pictureWidth', 'pictureHeight'],
  additionalProperties: false,
} as const;

export type Link = FromSchema<typeof linkSchema>;
export const isLink = (item: { readonly kind: string }): item is Link => item.kind === 'link';

/** A card as it is begun, board units; it scales as a whole. */
export const LINK_CARD = { width: 320, height: 104, padding: 14, fold: 18 } as const;
const TITLE = { fontSize: 16, lineHeight: 21, lines: 2 } as const;
const SITE = { fontSize: 12.5, lineHeight: 16 } as const;
const PAPER = '#fafaf9';
const FOLD = '#d9d6cf';
const INK = '#1d1d1b';
const MUTED = '#5d5b55';
const RULE = '#c9c6bf';

function stillOf({ picture, pictureWidth, pictureHeight }: Link, side: number): Primitive[] {
  if (picture === null || pictureWidth === null || pictureHeight === null) return [];
  return [squareQuad({ id: picture, width: pictureWidth, height: pictureHeight }, { x: 0, y: 0, side })];
}

/** Whose page it is; while that is all its title says, too, the whole address tells more. */
const siteWords = ({ title, site, address }: Link): string =>
  title === site ? address.replace(/^https?:\/\/(?:www\.)?/, '') : site;

/** What painters draw of one. */
export function linkPrimitives(link: Link): Primitive[] {
  const scale = link.width / LINK_CARD.width;
  const { width, height, padding, fold } = LINK_CARD;
  const still = stillOf(link, height * scale);
  const left = (still.length > 0 ? height : 0) + padding;
  const measure = width - left - padding;
  const card = { x: 0, y: 0, width: link.width, height: height * scale };
  const path = (points: readonly (readonly [number, number])[]) =>
    `M${points.map(([x, y]) => `${x * scale} ${y * scale}`).join('L')}Z`;
  const text = (set: SetText, y: number, colour: string): Primitive => ({
    ...({ kind: 'text', text: set, scale, colour, clip: card } as const),
    at: { x: left * scale, y: y * scale },
  });
  return [
    {
      kind: 'path',
      d: path([
        [0, 0],
        [width - fold, 0],
        [width, fold],
        [width, height],
        [0, height],
      ]),
      fill: PAPER,
    },
    {
      kind: 'path',
      d: path([
        [width - fold, 0],
        [width, fold],
        [width - fold, fold],
      ]),
      fill: FOLD,
    },
    ...still,
    text(firstLines(link.title, { ...TITLE, width: measure - fold / 2 }, TITLE.lines), padding, INK),
    {
      kind: 'path',
      d: path([
        [left, height - 36],
        [width - padding, height - 36],
        [width - padding, height - 35],
        [left, height - 35],
      ]),
      fill: RULE,
    },
    text(firstLines(siteWords(link), { ...SITE, width: measure }, 1), height - 29, MUTED),
  ];
}

export const linkKind: KindOfItem<Link> = {
  schema: linkSchema,
  title: 'Link card',
  heightOf: ({ width }) => (width * LINK_CARD.height) / LINK_CARD.width,
  picturesOf: ({ picture }) => (picture === null ? [] : [picture]),
  exchanged: (_, other) => ({ picture: other.id, pictureWidth: other.width, pictureHeight: other.height }),
  wordsOf: ({ title, site, address }) => `${title} ${site} ${address}`,
};

/** The host of an address without the usual `www.`: what a page is called before it was asked. */
export const hostOf = (address: string): string => new URL(address).host.replace(/^www\./, '');

type LinkStart = Pick<Link, 'id' | 'stack' | 'address'> & { readonly centre: Point } & Partial<Link>;

/** A card for an address that nobody has asked yet. @throws TypeError when the address cannot be read */
export const createLink = (start: LinkStart): Link => ({
  ...{ kind: 'link', ...UPRIGHT, width: LINK_CARD.width },
  ...{ title: hostOf(start.address), site: hostOf(start.address) },
  ...{ picture: null, pictureWidth: null, pictureHeight: null },
  ...start,
});

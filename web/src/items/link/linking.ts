import { keysOnTop } from '@miradero/core/board';
import type { Point } from '@miradero/core/geometry';
import { createLink, heightOf, isLink, LINK_CARD, type Link } from '@miradero/core/items';
import { whyOf } from '@miradero/core/text';
import { createElement } from 'react';
import type { Desk, Tool } from '../../desk/index.ts';
import { ask, type Gesture, newGesture, RefusedError } from '../../sync/index.ts';
import { SELECT } from '../../tools/index.ts';
import { AddressField } from './address-field.tsx';

/** What a page tells of itself, as far as a card shows it. */
type PageFacts = Partial<Pick<Link, 'title' | 'picture' | 'pictureWidth' | 'pictureHeight'>>;

const TITLE_MOST = 300;

async function stillOf(address: string, page: string): Promise<PageFacts> {
  try {
    const body = { address, page };
    const { picture } = await ask('POST /api/gathering/pictures', { body });
    return { picture: picture.id, pictureWidth: picture.width, pictureHeight: picture.height };
  } catch (error) {
    // A page whose picture cannot be had has its title all the same.
    if (error instanceof RefusedError) return {};
    throw error;
  }
}

/** Asks what is at an address: its title, and the first of its pictures as a still. */
async function factsOf(address: string): Promise<PageFacts> {
  const finds = await ask('POST /api/gathering/finds', { body: { address } });
  if (finds.kind === 'picture') {
    const { id, name, width, height } = finds.picture;
    return { title: name, picture: id, pictureWidth: width, pictureHeight: height };
  }
  const { title, pictures } = finds.page;
  const [first] = pictures;
  const still = first ? await stillOf(first.address, finds.page.address) : {};
  return { ...(title?.trim() ? { title: title.trim().slice(0, TITLE_MOST) } : {}), ...still };
}

/** Lets a card say what its page says; without an answer it keeps its address and its host. */
async function fill(desk: Desk, id: string, address: string, gesture: Gesture): Promise<void> {
  try {
    const facts = await factsOf(address);
    if (facts.picture) desk.sync.shelf.want([facts.picture]);
    const link = desk.session.items.get(id);
    // Whoever named it or took it away meanwhile is right.
    if (!link || !isLink(link) || link.removed || link.address !== address) return;
    const { title, ...others } = facts;
    const set = { ...others, ...(title && link.title === link.site ? { title } : {}) };
    if (Object.keys(set).length > 0) desk.session.commit([{ item: id, set }], gesture);
  } catch (error) {
    desk.say('The page did not answer; its card has the address alone.', [whyOf(error)]);
  }
}

/** Lets a card stand with its upper left corner at a point. @param facts - what is known of the page; undefined: it is asked */
export function makeLinkCard(desk: Desk, address: string, corner: Point, facts?: PageFacts): void {
  const gesture = newGesture();
  const width = LINK_CARD.width / (desk.view?.camera.scale ?? 1);
  const link = createLink({
    ...{ id: crypto.randomUUID(), stack: keysOnTop(desk.session.items.values(), 1)[0]!, address },
    ...{ centre: corner, width },
    ...facts,
  });
  const centre = { x: corner.x + width / 2, y: corner.y + heightOf(link) / 2 };
  desk.session.commit([{ create: { ...link, centre } }], gesture);
  desk.select([link.id]);
  if (!facts) void fill(desk, link.id, address, gesture);
}

/** Asks for an address where the card will stand. */
class Linking implements Tool {
  readonly id = 'link';
  readonly #corner: Point;

  constructor(corner: Point) {
    this.#corner = corner;
  }

  press: Tool['press'] = SELECT.press;
  offer = () => ({ title: 'Link card', ids: ['escape'], hint: 'Type or paste an address, then Enter.' });

  Surface: NonNullable<Tool['Surface']> = ({ desk, view }) =>
    createElement(AddressField, {
      view,
      at: this.#corner,
      onTake: (address: string) => this.#make(desk, address),
      onLeave: () => desk.tool === this && desk.leaveTool(),
    });

  #make(desk: Desk, address: string): void {
    desk.leaveTool();
    makeLinkCard(desk, address, this.#corner);
  }
}

/** Starts a card where the pointer is. */
export function startLink(desk: Desk): void {
  const { view } = desk;
  if (!view) return;
  desk.take(new Linking(desk.pointer ?? view.camera.centre), []);
}

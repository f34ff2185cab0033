import { isLink, type Link } from '@miradero/core/items';
import { type Desk, inGroup } from '../../desk/index.ts';
import type { KindInInterface } from '../kind.ts';
import { LinkLabel } from './label.tsx';
import { startLink } from './linking.ts';

/** Opens the page beside this one; it learns nothing of where it was opened. */
function openPage(desk: Desk, { address }: Link): void {
  if (URL.canParse(address)) window.open(address, '_blank', 'noopener,noreferrer');
  else
    desk.say('The address of this card leads nowhere. Its wall label can set it right.', [
      address.slice(0, 200),
    ]);
}

const openPages = (desk: Desk): void => {
  const link = desk.targets.find(isLink);
  if (link) openPage(desk, link);
  else desk.say('No link card is selected.');
};

function copyAddress(desk: Desk): void {
  const [link] = desk.targets.filter(isLink);
  if (!link) {
    desk.say('No link card is selected.');
    return;
  }
  navigator.clipboard.writeText(link.address).then(
    () => desk.say('The address is on the clipboard.', [link.address]),
    () => desk.say('The clipboard could not be written. The address stands on the wall label.'),
  );
}

export const linkInInterface: KindInInterface<Link> = {
  nameOf: (_, { title, site }) => title || site,
  offers: ['copy-address', 'open-page', 'come-close', 'raise', 'lower', 'duplicate', 'remove', 'label'],
  Label: LinkLabel,
  making: ['link-card'],
  open: openPage,
  actions: inGroup('Link card', [
    ['link-card', 'link card', 'Shift+L', startLink],
    ['open-page', 'open the page', [], openPages],
    ['copy-address', 'copy the address', 'Shift+O', copyAddress],
  ]),
};

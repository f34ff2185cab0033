import { decodePercent } from '@miradero/core/picture';
import type { FoundMark, FoundPage } from '@miradero/core/schema';
import { useMemo } from 'react';
import { makeLinkCard } from '../../items/index.ts';
import { bring, type Destination } from '../keeping/bring.ts';
import type { Picking } from '../keeping/gathering.ts';
import type { BroughtAddress } from '../reading/brought.ts';
import { type Pickable, PickSheet } from './pick-sheet.tsx';

const previewOf = (address: string, page: string): string =>
  `/api/gathering/previews?address=${encodeURIComponent(address)}&page=${encodeURIComponent(page)}`;

const TITLE_MOST = 300;

const hostOf = (address: string): string => new URL(address).host;

/** What a page tells of itself goes with each of its pictures; the page's title names a single one. */
export function broughtFrom(page: FoundPage, addresses: readonly string[], tag?: string): BroughtAddress[] {
  const { title, creator, licence } = page;
  const picked = page.pictures.filter(({ address }) => addresses.includes(address));
  return picked.map((one): BroughtAddress => {
    const name = one.alt || (picked.length === 1 ? title : null);
    return {
      ...{ kind: 'address', isPicture: true, address: one.address, page: page.address },
      ...(name ? { name } : {}),
      ...(title ? { title } : {}),
      ...(creator ? { creator } : {}),
      ...(licence ? { licence } : {}),
      ...(tag ? { tag } : {}),
      ...(one.width && one.height ? { width: one.width, height: one.height } : {}),
      ...(one.link && isSmall(one.width) ? { link: one.link } : {}),
    };
  });
}

/** Pictures that lead to a page of their own are as a rule small there and large here. */
const SMALL_PX = 640;
const isSmall = (width: number | null): boolean => (width ?? 0) < SMALL_PX;

/** What the page itself says of a picture. */
const MARK_WORDS: Readonly<Record<FoundMark, string>> = {
  costs: 'costs',
  watermarked: 'watermarked',
  licence: 'licence required',
};

function ofPage(page: FoundPage): Pickable[] {
  return page.pictures.map(({ address, preview, width, height, alt, link, marks }) => ({
    key: address,
    name: alt || decodePercent(new URL(address).pathname.split('/').pop() ?? ''),
    detail: `${width} × ${height}${link && isSmall(width) ? ' · larger behind it?' : ''}`,
    preview: previewOf(preview, page.address),
    marks: marks.map((mark) => MARK_WORDS[mark]),
  }));
}

const ofFolder = (files: readonly File[]): Pickable[] =>
  files.map((file, index) => ({
    key: String(index),
    name: file.name,
    detail: `${Math.max(1, Math.round(file.size / 1024)).toLocaleString('en')} kB`,
    preview: file,
  }));

function PageFacts({ page }: { page: FoundPage }) {
  return <span>{[page.creator, page.licence, hostOf(page.address)].filter(Boolean).join(' · ')}</span>;
}

/** Picks from a page or a folder, and brings what was picked to where things go here. */
export function PickingSheet({
  picking,
  to,
  onClose,
}: {
  picking: Picking;
  to: Destination;
  onClose: () => void;
}) {
  const pictures = useMemo(
    () => (picking.kind === 'page' ? ofPage(picking.page) : ofFolder(picking.files)),
    [picking],
  );
  const take = (keys: readonly string[]) => {
    onClose();
    if (picking.kind === 'page') void bring(to, broughtFrom(picking.page, keys, picking.tag));
    else
      void bring(
        to,
        keys.map((key) => ({ kind: 'file', file: picking.files[Number(key)]! })),
      );
  };
  if (picking.kind === 'folder') {
    return (
      <PickSheet
        title={picking.title}
        facts={`${picking.files.length} files`}
        pictures={pictures}
        onTake={take}
        onClose={onClose}
      />
    );
  }
  const { page } = picking;
  const { desk } = to;
  const keep = () => {
    onClose();
    // The page was asked a moment ago; without pictures there is nothing more to ask for.
    const facts = page.title?.trim() ? { title: page.title.trim().slice(0, TITLE_MOST) } : {};
    if (desk) makeLinkCard(desk, page.address, to.at, page.pictures.length === 0 ? facts : undefined);
  };
  const left = page.leftOut === 1 ? 'One small one is left out.' : `${page.leftOut} small ones are left out.`;
  return (
    <PickSheet
      title={page.title ?? hostOf(page.address)}
      facts={<PageFacts page={page} />}
      {...(page.leftOut > 0 ? { note: left } : {})}
      pictures={pictures}
      isFromWeb
      onCard={desk && keep}
      onTake={take}
      onClose={onClose}
    />
  );
}

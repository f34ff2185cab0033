import type { PatchPicture, Picture, PictureCopy, SettleCopy, UseMark } from '@miradero/core/schema';
import { useState } from 'react';
import type { Desk } from '../../desk/index.ts';
import { CopyChoices, EditableText, WEB_ADDRESS } from '../../shell/index.ts';
import { settleCopy } from '../../sync/index.ts';

const ROW = 'flex items-baseline gap-3 border-line border-t py-[5px]';
const MARKS: readonly (readonly [UseMark, string])[] = [
  ['look', 'only to look at'],
  ['work', 'may go into the work'],
];

/** How a copy differs, as a person would say it. */
export function copyWords({ isMirrored, scale }: PictureCopy): string {
  const size = scale > 1.05 ? 'larger' : scale < 0.95 ? 'smaller' : 'as large';
  return isMirrored ? `${size}, mirrored` : size;
}

/** A near copy that came in: nobody was asked then; here is what can be done about it. */
function Copy({ desk, picture, copy }: { desk: Desk; picture: Picture; copy: PictureCopy }) {
  const [trouble, setTrouble] = useState('');
  const other = desk.sync.shelf.get(copy.picture);
  const settle = (keep: SettleCopy['keep']) =>
    settleCopy(desk.sync, picture.id, copy.picture, keep).catch((error: Error) => setTrouble(error.message));
  return (
    <div className="border-line border-t py-[5px] text-[13px]">
      <p>
        You have this {copyWords(copy)}
        {other ? <span className="font-serif italic">: {other.name}</span> : ''}.
      </p>
      <p className="flex flex-wrap gap-x-3">
        <CopyChoices onSettle={(keep) => void settle(keep)} />
      </p>
      {trouble && <p className="text-vermilion">{trouble}</p>}
    </div>
  );
}

/** Where a picture comes from and what it may be used for; all of it can be said here. */
export function PictureSourceRows({ desk, picture }: { desk: Desk; picture: Picture }) {
  const { source, useMark, onlyFor } = picture;
  const patch = (body: PatchPicture) => desk.patchPicture(picture.id, body);
  const row = (name: string, key: keyof typeof source, placeholder: string, kind?: typeof WEB_ADDRESS) => (
    <div className={ROW}>
      <dt className="text-muted">{name}</dt>
      <dd className="min-w-0 flex-1">
        <EditableText
          label={`${name} of the picture`}
          value={source[key] ?? ''}
          placeholder={placeholder}
          {...(kind ? { kind } : {})}
          onChange={(text) => patch({ source: { [key]: text === '' ? null : text } })}
        />
      </dd>
    </div>
  );
  return (
    <>
      <dl className="text-[13px]">
        {row('Made by', 'creator', 'nobody named')}
        {row('Licence', 'licence', 'not known')}
        {row('Page', 'page', 'no address', WEB_ADDRESS)}
        {source.address && row('Address', 'address', 'no address', WEB_ADDRESS)}
      </dl>
      <div className="flex flex-wrap gap-x-3 border-line border-t py-[5px] text-[13px]">
        {MARKS.map(([mark, words]) => (
          <button
            key={words}
            type="button"
            aria-pressed={useMark === mark}
            className="choice"
            onClick={() => patch({ useMark: useMark === mark ? null : mark })}
          >
            {words}
          </button>
        ))}
        <button
          type="button"
          aria-pressed={onlyFor === desk.session.id}
          className="choice"
          onClick={() => patch({ onlyFor: onlyFor === desk.session.id ? null : desk.session.id })}
        >
          for this drawing only
        </button>
      </div>
      {picture.copies.map((copy) => (
        <Copy key={copy.picture} desk={desk} picture={picture} copy={copy} />
      ))}
    </>
  );
}

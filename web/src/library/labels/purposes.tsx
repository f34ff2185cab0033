import { type PatchPicture, type Picture, PURPOSES, type PurposeName } from '@miradero/core/schema';
import { cutText, storableText } from '@miradero/core/text';
import { useState } from 'react';
import { ThisOrThat } from './label-row.tsx';

type Patch = (patch: PatchPicture) => void;

/** Why the picture is here, as a whole and in parts of it. */
export function Purposes({
  picture,
  patch,
  onMark,
  marking,
}: {
  picture: Picture;
  patch: Patch;
  onMark: (purpose: PurposeName | undefined) => void;
  marking: PurposeName | undefined;
}) {
  const [isNot, setNot] = useState(false);
  const whole = picture.purposes.filter(({ region }) => region === null);
  const set = (purposes: Picture['purposes']) => patch({ purposes: [...purposes] });
  return (
    <>
      <ThisOrThat isNot={isNot} onChange={setNot} />
      <div className="flex flex-wrap gap-x-3">
        {PURPOSES.map((purpose) => {
          const given = whole.find((one) => one.purpose === purpose && one.isNot === isNot);
          return (
            <button
              key={purpose}
              type="button"
              aria-pressed={given !== undefined}
              className="choice py-0.5 text-[13px]"
              onClick={() =>
                set(
                  given
                    ? picture.purposes.filter((one) => one !== given)
                    : [...picture.purposes, { purpose, isNot, region: null }],
                )
              }
            >
              {isNot ? `not ${purpose}` : purpose}
            </button>
          );
        })}
      </div>
      {picture.purposes
        .filter(({ region }) => region !== null)
        .map((one) => (
          <p key={JSON.stringify(one)} className="flex items-baseline justify-between pt-1 text-[13px]">
            <span>
              a part {one.isNot ? 'not ' : ''}for {one.purpose}
            </span>
            <button
              type="button"
              className="text-muted underline underline-offset-3"
              onClick={() => set(picture.purposes.filter((other) => other !== one))}
            >
              forget
            </button>
          </p>
        ))}
      <label className="flex items-baseline gap-2 pt-2 text-[13px]">
        mark a part for
        <select
          aria-label="Mark a part for"
          className="border-line border-b bg-raised"
          value={marking ?? ''}
          onChange={(event) => onMark((event.target.value || undefined) as PurposeName | undefined)}
        >
          <option value="">…</option>
          {PURPOSES.map((purpose) => (
            <option key={purpose}>{purpose}</option>
          ))}
        </select>
      </label>
      {marking && <p className="pt-1 text-[12px] text-muted">Drag over the part on the picture.</p>}
    </>
  );
}

/** The tags of one picture. */
export function EditableTags({ picture, patch }: { picture: Picture; patch: Patch }) {
  const [text, setText] = useState('');
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 pt-2 text-[13px]">
      <span className="text-muted">tags</span>
      {picture.tags.map((tag) => (
        <button
          key={tag}
          type="button"
          title="Take this tag away"
          className="choice"
          aria-pressed
          onClick={() => patch({ tags: picture.tags.filter((one) => one !== tag) })}
        >
          {tag}
        </button>
      ))}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          const tag = cutText(storableText(text).trim(), 60).trim();
          if (tag && !picture.tags.includes(tag)) patch({ tags: [...picture.tags, tag] });
          setText('');
        }}
      >
        <input
          aria-label="Another tag"
          placeholder="another"
          className="w-24 border-line border-b bg-transparent placeholder:text-muted placeholder:italic"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </form>
    </div>
  );
}

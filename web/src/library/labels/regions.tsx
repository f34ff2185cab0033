import { type PatchPicture, type Picture, PURPOSES, type PurposeName } from '@miradero/core/schema';
import { useState } from 'react';
import { ThisOrThat } from '../../shell/index.ts';

/** What a part of the picture that is about to be marked is there for. */
export interface Marking {
  readonly purpose: PurposeName;
  readonly isNot: boolean;
}

/** Parts of the picture, each with why it is here. */
export function Regions({
  picture,
  patch,
  marking,
  onMark,
  onGoTo,
}: {
  picture: Picture;
  patch: (patch: PatchPicture) => void;
  marking: Marking | undefined;
  onMark: (marking: Marking | undefined) => void;
  /** Takes hold of one on the picture: it can be moved and resized there. */
  onGoTo: (index: number) => void;
}) {
  const [isNot, setNot] = useState(false);
  const set = (purposes: Picture['purposes']) => patch({ purposes: [...purposes] });
  return (
    <>
      <ul>
        {picture.purposes.map(
          (one, index) =>
            one.region !== null && (
              <li key={JSON.stringify(one)} className="flex items-baseline gap-3 text-[13px]">
                <button
                  type="button"
                  className="min-w-0 flex-1 truncate py-0.5 text-left hover:underline"
                  title="Move and resize it on the picture"
                  onClick={() => onGoTo(index)}
                >
                  {one.word && <span className="font-serif italic">{one.word}, </span>}
                  {one.isNot ? 'not this ' : 'for '}
                  {one.purpose}
                </button>
                <button
                  type="button"
                  aria-label={`${one.isNot ? 'This' : 'Not that'}: ${one.purpose}`}
                  className="text-muted underline underline-offset-3"
                  onClick={() =>
                    set(
                      picture.purposes.map((other) =>
                        other === one ? { ...one, isNot: !one.isNot } : other,
                      ),
                    )
                  }
                >
                  {one.isNot ? 'this' : 'not that'}
                </button>
                <button
                  type="button"
                  aria-label={`Forget the part for ${one.purpose}`}
                  className="text-muted underline underline-offset-3"
                  onClick={() => set(picture.purposes.filter((other) => other !== one))}
                >
                  forget
                </button>
              </li>
            ),
        )}
      </ul>
      <div className="flex flex-wrap items-baseline gap-x-3 pt-1 text-[13px]">
        <ThisOrThat isNot={isNot} onChange={setNot} />
        <select
          aria-label="Mark a part for"
          className="border-line border-b bg-raised"
          value={marking?.purpose ?? ''}
          onChange={(event) =>
            onMark(event.target.value ? { purpose: event.target.value as PurposeName, isNot } : undefined)
          }
        >
          <option value="">mark a part for …</option>
          {PURPOSES.map((purpose) => (
            <option key={purpose} value={purpose}>
              {isNot ? `not this ${purpose}` : purpose}
            </option>
          ))}
        </select>
      </div>
      {marking && <p className="pt-1 text-[12px] text-muted">Drag over the part on the picture.</p>}
    </>
  );
}

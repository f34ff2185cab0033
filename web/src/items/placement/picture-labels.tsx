import type { Picture, Purpose } from '@miradero/core/schema';
import { useRun } from '../../commands/index.ts';
import type { Desk } from '../../desk/index.ts';
import { EditableText } from '../../shell/index.ts';
import { labelsOf } from './labelling.ts';

const WORD = 'text-muted underline underline-offset-3';

/** What was said of parts of a picture, to be altered and forgotten. */
export function PictureLabels({ desk, picture }: { desk: Desk; picture: Picture }) {
  const run = useRun();
  const labels = labelsOf(picture.purposes);
  const put = (label: Purpose, next: Purpose | undefined) =>
    desk.patchPicture(picture.id, {
      purposes: picture.purposes.flatMap((one) => (one === label ? (next ?? []) : one)),
    });
  return (
    <section className="border-line border-t py-[5px] text-[13px]" aria-label="Labels">
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-muted">Labels</h2>
        <button type="button" className={WORD} onClick={() => run('label-picture')}>
          label a part
        </button>
      </div>
      <ul>
        {labels.map((label, index) => (
          <li key={index} className="flex flex-wrap items-baseline justify-end gap-x-2">
            <span className="min-w-0 basis-full">
              <EditableText
                label={`Word of label ${index + 1}`}
                value={label.word ?? ''}
                placeholder={label.purpose}
                onChange={(word) => {
                  const { word: _, ...rest } = label;
                  put(label, { ...rest, ...(word.trim() && { word: word.trim() }) });
                }}
              />
            </span>
            <span className="text-muted">
              {label.isNot ? 'not this ' : 'for '}
              {label.purpose}
            </span>
            <button
              type="button"
              aria-label={`Forget label ${index + 1}`}
              className={WORD}
              onClick={() => put(label, undefined)}
            >
              forget
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

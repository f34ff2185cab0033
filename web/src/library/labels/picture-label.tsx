import type { PatchPicture, Picture } from '@miradero/core/schema';
import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import {
  EditableName,
  EditableText,
  LIBRARY,
  useFreshSubjects,
  useJobProgress,
  WEB_ADDRESS,
} from '../../shell/index.ts';
import { ViewDials } from '../../subjects/index.ts';
import { ask } from '../../sync/index.ts';
import { Fineness } from './fineness.tsx';
import { Fold, Row } from './label-row.tsx';
import { NearCopy } from './near-copies.tsx';
import { type Marking, Regions } from './regions.tsx';
import { SayField } from './say-field.tsx';
import { patchSaying, subjectsShown } from './sayings.ts';
import { useFormLight } from './use-form-light.ts';

const DATE = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

type Patch = (patch: PatchPicture) => void;

function Story({ id }: { id: string }) {
  const { data } = useQuery({
    queryKey: [...LIBRARY, 'story', id],
    queryFn: () => ask('GET /api/pictures/:id/story', { parameters: { id } }),
  });
  if (!data) return null;
  const since = (date: string | null) => (date ? ` since ${DATE.format(new Date(date))}` : '');
  return (
    <ul className="text-[13px]">
      {data.boards.map(({ id, name, count, since: when }) => (
        <li key={id}>
          <Link to={`/boards/${id}`} className="font-serif underline underline-offset-3">
            {name}
          </Link>
          <span className="text-muted">
            {count > 1 ? `, ${count} times` : ''}
            {since(when)}
          </span>
        </li>
      ))}
      {data.boards.length === 0 && <li className="text-muted">It stands on no board.</li>}
      {data.formerBoards.map(({ id, name }) => (
        <li key={id} className="text-muted">
          formerly on {name}
        </li>
      ))}
    </ul>
  );
}

/** Everything known of a picture, set like the label beside it, and everything that can be said of it. */
export function PictureLabel({
  picture,
  patch,
  marking,
  onMark,
  onGoTo,
}: {
  picture: Picture;
  patch: Patch;
  marking: Marking | undefined;
  onMark: (marking: Marking | undefined) => void;
  /** Takes hold of a marked part, by its place among the purposes. */
  onGoTo: (index: number) => void;
}) {
  const navigate = useNavigate();
  const { data: subjects = [] } = useFreshSubjects();
  const light = useFormLight(picture);
  const tiles = useJobProgress(picture.id);
  const { source, measures } = picture;
  const shown = subjectsShown([picture], subjects);
  const regions = picture.purposes.filter(({ region }) => region !== null).length;
  const text = (name: string, key: keyof typeof source, placeholder: string) => (
    <Row name={name}>
      <EditableText
        label={`${name} of the picture`}
        value={source[key] ?? ''}
        placeholder={placeholder}
        {...(key === 'page' ? { kind: WEB_ADDRESS } : {})}
        onChange={(value) => patch({ source: { [key]: value === '' ? null : value } })}
      />
    </Row>
  );
  return (
    <aside
      aria-label="Wall label"
      className="w-80 shrink-0 overflow-y-auto border-line border-l max-md:h-1/2 max-md:w-full max-md:border-t max-md:border-l-0 bg-raised px-5 py-4"
    >
      <EditableName
        key={picture.id}
        label="Name of the picture"
        className="text-[24px] leading-[1.15]"
        isWrapping
        name={picture.name}
        onRename={(name) => patch({ name })}
      />
      <p className="mb-3 flex gap-2 whitespace-nowrap text-[13px] text-muted">
        <span className="min-w-0 truncate" title={picture.fileName}>
          {picture.fileName}
        </span>
        <span className="figures">
          {picture.width} × {picture.height}&thinsp;px
        </span>
      </p>
      <SayField
        pictures={[picture]}
        label="What it is here for"
        onSay={(saying, isGiven) => patch(patchSaying(picture, saying, isGiven))}
      />
      <textarea
        key={`${picture.id}${picture.note}`}
        aria-label="Note about the picture"
        placeholder="what you see in it"
        rows={2}
        maxLength={10_000}
        className="mb-2 w-full resize-y border-line border-b bg-transparent font-serif text-[15px] placeholder:text-muted placeholder:italic"
        defaultValue={picture.note}
        onBlur={(event) => event.target.value !== picture.note && patch({ note: event.target.value })}
      />
      <Fold title="Parts of it marked" brief={regions > 0 ? regions : 'none'} isOpen>
        <Regions picture={picture} patch={patch} marking={marking} onMark={onMark} onGoTo={onGoTo} />
      </Fold>
      {shown.length > 0 && (
        <Fold title="Seen from, and light" brief={shown.map(({ name }) => name).join(', ')} isOpen>
          {shown.map((subject) => (
            <ViewDials
              key={subject.id}
              picture={picture}
              subject={subject}
              light={light}
              onChange={(view) => patch({ views: { [subject.id]: view } })}
            />
          ))}
        </Fold>
      )}
      <Fold title="How fine it is" brief={measures && `${measures.sharpness.toFixed(2)} cycles / px`}>
        <Fineness picture={picture} />
        {(measures || tiles) && (
          <dl className="text-[13px]">
            {tiles && <Row name="Finest detail">{tiles}</Row>}
            {measures && (
              <Row name="Light models by">
                <span className="figures">{measures.modelling.toFixed(1)} value steps</span>
              </Row>
            )}
          </dl>
        )}
      </Fold>
      <Fold
        title="Where it comes from"
        brief={[source.creator, source.licence].filter(Boolean).join(', ') || 'nobody named'}
      >
        <dl className="text-[13px]">
          {text('Made by', 'creator', 'nobody named')}
          {text('Licence', 'licence', 'not known')}
          {text('Page', 'page', 'no address')}
          <Row name="Came in">{DATE.format(new Date(picture.addedAt))}</Row>
        </dl>
        <div className="flex flex-wrap gap-x-3 pt-1 text-[13px]">
          {(
            [
              ['look', 'only to look at'],
              ['work', 'may go into the work'],
            ] as const
          ).map(([mark, words]) => (
            <button
              key={mark}
              type="button"
              aria-pressed={picture.useMark === mark}
              className="choice"
              onClick={() => patch({ useMark: picture.useMark === mark ? null : mark })}
            >
              {words}
            </button>
          ))}
        </div>
        <p className="flex gap-4 pt-2 text-[13px]">
          <a
            className="underline underline-offset-3"
            href={`/api/pictures/${picture.id}/with-source`}
            download
          >
            a copy with its source in it
          </a>
        </p>
      </Fold>
      <Fold title="Stands on">
        <Story id={picture.id} />
      </Fold>
      {picture.copies.length > 0 && (
        <Fold title="Near copies" brief={picture.copies.length} isOpen>
          {picture.copies.map((copy) => (
            <NearCopy
              key={copy.picture}
              picture={picture}
              copy={copy}
              onDone={(kept) => kept !== picture.id && void navigate(`/library/${kept}`, { replace: true })}
            />
          ))}
        </Fold>
      )}
    </aside>
  );
}

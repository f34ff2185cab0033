import {
  type PatchPicture,
  PILES,
  type Picture,
  type PurposeName,
  type Subject,
} from '@miradero/core/schema';
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
import { Row, Section } from './label-row.tsx';
import { NearCopy } from './near-copies.tsx';
import { EditableTags, Purposes } from './purposes.tsx';
import { useFormLight } from './use-form-light.ts';

const DATE = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

type Patch = (patch: PatchPicture) => void;

function PartsOf({ picture, patch, subject }: { picture: Picture; patch: Patch; subject: Subject }) {
  const every = [
    { id: subject.id, name: 'as a whole' },
    ...subject.parts.flatMap((part) => [part, ...part.parts]),
  ];
  return (
    <div className="flex flex-wrap gap-x-3 pb-1">
      <span className="font-serif text-[14px]">{subject.name}</span>
      {every.map(({ id, name }) => {
        const has = picture.parts.includes(id);
        return (
          <button
            key={id}
            type="button"
            aria-pressed={has}
            className="choice py-0.5 text-[13px]"
            onClick={() =>
              patch({ parts: has ? picture.parts.filter((one) => one !== id) : [...picture.parts, id] })
            }
          >
            {name}
          </button>
        );
      })}
    </div>
  );
}

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

const subjectsOf = (picture: Picture, subjects: readonly Subject[]): Subject[] =>
  subjects.filter(({ id, parts }) =>
    [id, ...parts.flatMap((part) => [part.id, ...part.parts.map((inner) => inner.id)])].some((one) =>
      picture.parts.includes(one),
    ),
  );

/** Everything known of a picture, set like the label beside it, and everything that can be said of it. */
export function PictureLabel({
  picture,
  patch,
  marking,
  onMark,
}: {
  picture: Picture;
  patch: Patch;
  marking: PurposeName | undefined;
  onMark: (purpose: PurposeName | undefined) => void;
}) {
  const navigate = useNavigate();
  const { data: subjects = [] } = useFreshSubjects();
  const light = useFormLight(picture);
  const tiles = useJobProgress(picture.id);
  const { source, measures } = picture;
  const shown = subjectsOf(picture, subjects);
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
      <Section title="Why it is here">
        <Purposes picture={picture} patch={patch} marking={marking} onMark={onMark} />
        <div className="flex gap-3 pt-2 text-[13px]">
          <span className="text-muted">pile</span>
          {PILES.map((pile) => (
            <button
              key={pile}
              type="button"
              aria-pressed={picture.pile === pile}
              className="choice"
              onClick={() => patch({ pile: picture.pile === pile ? null : pile })}
            >
              {pile}
            </button>
          ))}
        </div>
        <EditableTags picture={picture} patch={patch} />
      </Section>
      {subjects.length > 0 && (
        <Section title="What it shows">
          {shown.map((subject) => (
            <PartsOf key={subject.id} picture={picture} patch={patch} subject={subject} />
          ))}
          <p className="flex flex-wrap items-baseline gap-x-4 text-[13px]">
            <select
              aria-label="Another subject that it shows"
              className="border-line border-b bg-raised"
              value=""
              onChange={(event) => patch({ parts: [...picture.parts, event.target.value] })}
            >
              <option value="">{shown.length > 0 ? 'another subject …' : 'a subject …'}</option>
              {subjects
                .filter((subject) => !shown.includes(subject))
                .map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
            </select>
            <button
              type="button"
              aria-pressed={picture.isToScale}
              className="choice"
              onClick={() => patch({ isToScale: !picture.isToScale })}
            >
              to scale
            </button>
          </p>
          {shown.map((subject) => (
            <ViewDials
              key={subject.id}
              picture={picture}
              subject={subject}
              light={light}
              onChange={(view) => patch({ views: { [subject.id]: view } })}
            />
          ))}
        </Section>
      )}
      <Section title="How good it is">
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
      </Section>
      <Section title="Where it comes from">
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
      </Section>
      <Section title="Stands on">
        <Story id={picture.id} />
      </Section>
      {picture.copies.length > 0 && (
        <Section title="Near copies">
          {picture.copies.map((copy) => (
            <NearCopy
              key={copy.picture}
              picture={picture}
              copy={copy}
              onDone={(kept) => kept !== picture.id && void navigate(`/library/${kept}`, { replace: true })}
            />
          ))}
        </Section>
      )}
    </aside>
  );
}

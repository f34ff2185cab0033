import { printInches, sharpnessIn } from '@miradero/core/picture';
import {
  PILES,
  type Picture,
  type PictureStory,
  PURPOSES,
  type PurposeName,
  type Region,
  type Subject,
} from '@miradero/core/schema';
import { nearLensWords } from '@miradero/core/subject';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useEffect, useState } from 'react';
import { Link, useLocation, useNavigate, useParams } from 'react-router';
import { CommandRoom } from '../commands/index.ts';
import { GatherLine, GatherRoom } from '../gather/index.ts';
import {
  BoardTabs,
  EditableName,
  EditableText,
  isTyping,
  Lintel,
  Message,
  useFreshSubjects,
  useTheme,
} from '../shell/index.ts';
import { ViewDials } from '../subjects/index.ts';
import { askServer } from '../sync/index.ts';
import { LoneStage } from './lone-stage.tsx';
import { NearCopy } from './near-copies.tsx';
import { useFormLight } from './use-form-light.ts';
import { LIBRARY } from './use-library.ts';
import { usePicture } from './use-picture.ts';

const DATE = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
const CM = 2.54;
const DEFAULT_PPI = 300;

type Patch = ReturnType<typeof usePicture>['patch'];

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline justify-between gap-3 border-line border-t py-[5px]">
      <dt className="shrink-0 text-muted">{name}</dt>
      <dd className="min-w-0 text-right">{children}</dd>
    </div>
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-line border-t pt-2 pb-3">
      <h2 className="mb-1 font-serif text-[15px] text-muted italic">{title}</h2>
      {children}
    </section>
  );
}

/** How fine a picture really is, and how large it can be printed. */
function Fineness({ picture }: { picture: Picture }) {
  const [ppi, setPpi] = useState(DEFAULT_PPI);
  const { measures, width, height } = picture;
  if (!measures) return <p className="text-[13px] text-muted">It is being measured.</p>;
  const print = (pixels: number) => printInches(pixels, ppi, measures.sharpness);
  const [w, h] = [print(width), print(height)];
  const cm = (inches: number) => (inches * CM).toFixed(1);
  const regions = picture.purposes.filter(({ region }) => region !== null);
  const lens = nearLensWords(picture, Object.values(picture.views)[0]?.distance ?? null);
  const isForWork = picture.useMark === 'work';
  return (
    <dl className="text-[13px]">
      <Row name="Sharp up to">
        <span className="figures">{measures.sharpness.toFixed(2)} cycles / px</span>
      </Row>
      {regions.map(({ region, purpose }) => (
        <Row key={JSON.stringify([region, purpose])} name={`In the part for ${purpose}`}>
          <span className="figures">
            {sharpnessIn(measures.sharpnessGrid, region!).toFixed(2)} cycles / px
          </span>
        </Row>
      ))}
      <Row name="Prints at">
        <input
          type="number"
          aria-label="Pixels per inch"
          className="figures w-14 border-line border-b bg-transparent text-right"
          min={30}
          max={2400}
          step={10}
          value={ppi}
          onChange={(event) => setPpi(Math.max(1, Number(event.target.value)))}
        />{' '}
        <span className="figures">ppi</span>
      </Row>
      <Row name="as large as">
        <span className="figures">
          {cm(w.byPixels)} × {cm(h.byPixels)}&thinsp;cm
        </span>
      </Row>
      <Row name="sharp as large as">
        <span className="figures">
          about {cm(w.byDetail)} × {cm(h.byDetail)}&thinsp;cm
        </span>
      </Row>
      {isForWork && w.byDetail * CM < 10 && (
        <p className="py-1 text-vermilion">
          It goes into the work, and prints sharp no wider than {cm(w.byDetail)} cm.
        </p>
      )}
      {isForWork && lens && <p className="py-1 text-vermilion">{lens}</p>}
    </dl>
  );
}

/** Why the picture is here, as a whole and in parts of it. */
function Purposes({
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
      <div className="flex gap-4 text-[13px]">
        {[false, true].map((no) => (
          <button
            key={String(no)}
            type="button"
            aria-pressed={isNot === no}
            className="choice"
            onClick={() => setNot(no)}
          >
            {no ? 'not that' : 'this'}
          </button>
        ))}
      </div>
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
    queryKey: [LIBRARY, 'story', id],
    queryFn: () => askServer<PictureStory>(`/api/pictures/${id}/story`),
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

function Label({
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
  const { source, measures } = picture;
  const shown = subjectsOf(picture, subjects);
  const text = (name: string, key: keyof typeof source, placeholder: string) => (
    <Row name={name}>
      <EditableText
        label={`${name} of the picture`}
        value={source[key] ?? ''}
        placeholder={placeholder}
        onChange={(value) => patch({ source: { [key]: value === '' ? null : value } })}
      />
    </Row>
  );
  return (
    <aside
      aria-label="Wall label"
      className="w-80 shrink-0 overflow-y-auto border-line border-l bg-raised px-5 py-4"
    >
      <EditableName
        key={picture.id}
        label="Name of the picture"
        className="text-[24px] leading-[1.15]"
        isWrapping
        name={picture.name}
        onRename={(name) => patch({ name })}
      />
      <p className="mb-3 truncate text-[13px] text-muted">
        {picture.fileName} ·{' '}
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
        {measures && (
          <dl className="text-[13px]">
            <Row name="Light models by">
              <span className="figures">{measures.modelling.toFixed(1)} value steps</span>
            </Row>
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

function EditableTags({ picture, patch }: { picture: Picture; patch: Patch }) {
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
          const tag = text.trim().slice(0, 60);
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

/** One picture alone: on the stage as large as it will, beside it everything known of it. */
export function PicturePage() {
  useTheme(undefined);
  const { id = '' } = useParams();
  const navigate = useNavigate();
  const location = useLocation();
  const { picture, trouble, patch, undo } = usePicture(id);
  const [marking, setMarking] = useState<PurposeName>();
  const back = (location.state as { from?: string } | null)?.from ?? '/library';
  const name = picture?.name;
  useEffect(() => {
    document.title = `${name ?? 'Picture'} · Miradero`;
  }, [name]);
  useEffect(() => {
    void askServer(`/api/pictures/${id}/looked`, 'POST', {}).catch(() => {
      // That somebody looked is no loss when the server is away.
    });
  }, [id]);
  const onKey = (event: KeyboardEvent) => {
    if (isTyping(event)) return;
    if (event.key === 'Escape') {
      if (marking) setMarking(undefined);
      else void navigate(back);
    } else if ((event.ctrlKey || event.metaKey) && event.key === 'z') undo();
    else return;
    event.preventDefault();
  };
  useEffect(() => {
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
  if (trouble) return <Message title="This picture is not here">{trouble}</Message>;
  const onRegion = (region: Region) => {
    if (!picture || !marking) return;
    patch({ purposes: [...picture.purposes, { purpose: marking, isNot: false, region }] });
    setMarking(undefined);
  };
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />}>
        <Link to={back} className="font-serif text-[15px] text-muted hover:text-ink">
          Library
        </Link>
        <span className="min-w-0 truncate font-serif text-[16px]">{picture?.name}</span>
        <BoardTabs />
      </Lintel>
      <CommandRoom />
      <GatherRoom />
      <div className="flex min-h-0 flex-1 max-md:flex-col">
        {picture && (
          <>
            <LoneStage
              key={picture.id}
              picture={picture}
              marked={picture.purposes.flatMap(({ region, purpose, isNot }) =>
                region ? [{ region, words: isNot ? `not ${purpose}` : purpose }] : [],
              )}
              onMark={marking ? onRegion : undefined}
            />
            <Label picture={picture} patch={patch} marking={marking} onMark={setMarking} />
          </>
        )}
      </div>
    </main>
  );
}

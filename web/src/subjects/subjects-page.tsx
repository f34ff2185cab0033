import type { Picture, Subject } from '@miradero/core/schema';
import { movePart, partLines, rankedByDetail } from '@miradero/core/subject';
import { type FormEvent, useEffect, useState } from 'react';
import { Link, useLocation, useNavigate, useParams } from 'react-router';
import { PalettesOfSubject } from '../colour/index.ts';
import { PERCHABLE, type Shown, usePlace } from '../commands/index.ts';
import {
  type Aim,
  aiming,
  GatherLine,
  GatherRoom,
  GatherWords,
  gatheringOf,
  LookElsewhere,
  OWN_DRAG,
  wordsToAsk,
} from '../gather/index.ts';
import {
  EditableName,
  Lintel,
  MOST_SHOWN,
  Thumb,
  useFreshSubjects,
  useSubjectsAway,
  useSync,
  useTheme,
} from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { tellMany } from '../sync/index.ts';
import { BlindSpots } from './blind-spots.tsx';
import { SUBJECT } from './commands.ts';
import { PartsList } from './parts-list.tsx';
import { useCoverage, usePutSubject } from './use-coverage.ts';

const SIDE = 80;

function NewSubject({ onMake }: { onMake: (name: string) => void }) {
  const [name, setName] = useState('');
  const make = (event: FormEvent) => {
    event.preventDefault();
    if (name.trim()) onMake(name.trim());
    setName('');
  };
  return (
    <form onSubmit={make} className="pt-2">
      <input
        aria-label="A new subject"
        placeholder="another subject"
        maxLength={200}
        className="w-full border-line border-b bg-transparent py-1 placeholder:text-muted placeholder:italic"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
    </form>
  );
}

/** What is being looked for, and the ways to bring it in. */
function AimLine({ aim, onEnd }: { aim: Aim; onEnd: () => void }) {
  return (
    <div
      role="status"
      className="flex flex-wrap items-baseline gap-x-4 border-verdigris border-b-2 bg-raised px-6 py-2 text-[14px]"
    >
      <span>
        Gathering for <span className="font-serif italic">{aim.words}</span>: what comes in now is given to
        it.
      </span>
      <GatherWords />
      <LookElsewhere words={wordsToAsk(aim)} aim={aim} className="px-1.5 py-1 underline underline-offset-3" />
      <span className="flex-1" />
      <button type="button" className="text-muted underline underline-offset-3" onClick={onEnd}>
        done
      </button>
    </div>
  );
}

/** Pictures of the part that is chosen, the one that shows most of it first; or all of the subject. */
function Serving({
  pictures,
  selected,
  onSelect,
}: {
  pictures: readonly Picture[];
  selected: string | undefined;
  onSelect: (id: string | undefined) => void;
}) {
  const navigate = useNavigate();
  return (
    <ul className="flex flex-wrap gap-2 bg-[#797979] p-3">
      {pictures.map((picture) => (
        <li key={picture.id}>
          <button
            type="button"
            draggable
            aria-pressed={selected === picture.id}
            aria-label={picture.name}
            title={`${picture.name}: ${picture.measures ? `${Math.round(picture.measures.sharpness * Math.max(picture.width, picture.height))} lines` : 'not measured yet'}`}
            className={`hung grid place-items-center ${selected === picture.id ? 'is-selected' : ''}`}
            style={{ height: SIDE, minWidth: 40 }}
            onClick={() => onSelect(selected === picture.id ? undefined : picture.id)}
            onDoubleClick={() =>
              void navigate(`/library/${picture.id}`, { state: { from: location.pathname } })
            }
            onDragStart={(event) => event.dataTransfer.setData(OWN_DRAG, picture.id)}
          >
            <span className="hung-frame">
              <Thumb picture={picture} width={SIDE * 1.5} height={SIDE} />
            </span>
          </button>
        </li>
      ))}
      {pictures.length === 0 && (
        <li className="py-6 font-serif text-[15px] text-black italic">No picture serves it yet.</li>
      )}
    </ul>
  );
}

function SubjectRoom({ subject }: { subject: Subject }) {
  const sync = useSync();
  const navigate = useNavigate();
  const put = usePutSubject();
  const { coverage, pictures } = useCoverage(subject);
  const lines = partLines(subject.parts, coverage);
  const { state } = useLocation();
  const shownPart = (state as Shown | null)?.part;
  const [part, setPart] = useState(shownPart);
  useEffect(() => {
    if (shownPart) setPart(shownPart);
  }, [shownPart]);
  const [cell, setCell] = useState<readonly string[]>();
  const [selected, setSelected] = useState<string>();
  const [notice, setNotice] = useState('');
  const line = lines.find(({ id }) => id === part);
  const wanted = cell ?? line?.coverage?.pictures;
  const shown = rankedByDetail(wanted ? pictures.filter(({ id }) => wanted.includes(id)) : pictures);
  const give = (to: { id: string; name: string }, ids: readonly string[]) => {
    tellMany(sync, { pictures: [...ids], addParts: [to.id] }, `Given to ${to.name}`).then(
      () => setNotice(`${ids.length === 1 ? 'One picture' : `${ids.length} pictures`} given to ${to.name}.`),
      (error: Error) => setNotice(error.message),
    );
  };
  usePlace(PERCHABLE, {
    shows() {
      const ids = selected ? [selected] : shown.slice(0, MOST_SHOWN).map(({ id }) => id);
      return ids.length > 0 ? { kind: 'pictures', pictures: ids } : undefined;
    },
  });
  usePlace(SUBJECT, {
    part(number) {
      const to = lines[number - 1];
      if (!to) {
        setNotice(`No part has the number ${number}.`);
        return;
      }
      if (selected) give(to, [selected]);
      else setPart(part === to.id ? undefined : to.id);
    },
    move(to) {
      if (part === undefined) setNotice('Choose a part first: press it, or its number.');
      else void put(subject.id, { parts: [...movePart(subject.parts, part, to)] });
    },
  });
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(320px,1fr)_minmax(420px,1.25fr)] overflow-hidden max-lg:block max-lg:overflow-y-auto max-md:overflow-visible">
      <div className="min-h-0 overflow-y-auto px-6 py-6 max-lg:overflow-visible">
        <EditableName
          label="Name of the subject"
          className="text-[30px] leading-none"
          name={subject.name}
          onRename={(name) => void put(subject.id, { name })}
        />
        <p className="mt-1 mb-3 flex items-baseline gap-4 text-[13px] text-muted">
          <span>
            <span className="figures">{subject.pictures}</span>{' '}
            {subject.pictures === 1 ? 'picture' : 'pictures'}
          </span>
          <Link to={`/library?subject=${subject.id}`} className="underline underline-offset-3">
            in the library
          </Link>
          <Link to={`/sources?subject=${subject.id}`} className="underline underline-offset-3">
            sources
          </Link>
          <button
            type="button"
            className="underline underline-offset-3"
            onClick={() => void put(subject.id, { isPutAway: true }).then(() => navigate('/subjects'))}
          >
            put away
          </button>
        </p>
        <PartsList
          subject={subject}
          lines={lines}
          chosen={part}
          onChoose={(next) => {
            setPart(next);
            setCell(undefined);
          }}
          onGive={give}
          onAlter={({ parts }) => void put(subject.id, { parts: [...parts] })}
        />
        <h2 className="mt-5 mb-1 font-serif text-[16px] text-muted italic">
          {cell
            ? 'from there'
            : line
              ? `for ${line.name}, most detail first`
              : 'all of them, most detail first'}
        </h2>
        <Serving pictures={shown} selected={selected} onSelect={setSelected} />
        {selected && (
          <p className="pt-1 text-[13px] text-muted">
            A number gives it to that part; Enter or a double press opens it.{' '}
            <Link to={`/library/${selected}`} className="text-ink underline underline-offset-3">
              Look at it
            </Link>
          </p>
        )}
        <PalettesOfSubject subject={subject.id} onSay={setNotice} />
        {notice && (
          <p role="status" className="pt-1 text-[13px] text-muted">
            {notice}
          </p>
        )}
      </div>
      <div className="min-h-0 overflow-y-auto border-line border-l px-6 py-6 max-lg:overflow-visible max-lg:border-l-0">
        {coverage && (
          <BlindSpots
            subject={subject}
            coverage={coverage}
            pictures={pictures}
            onShow={setCell}
            onGather={(aim) => aiming.set(aim)}
          />
        )}
      </div>
    </div>
  );
}

/** Subjects that were put away, and the way back. */
function PutAway() {
  const put = usePutSubject();
  const { data: away = [] } = useSubjectsAway();
  if (away.length === 0) return null;
  return (
    <section className="mt-6">
      <h2 className="font-serif text-[14px] text-muted italic">put away</h2>
      <ul>
        {away.map(({ id, name }) => (
          <li key={id} className="flex items-baseline gap-2 text-[13px]">
            <span className="min-w-0 flex-1 truncate text-muted">{name}</span>
            <button
              type="button"
              aria-label={`Bring back ${name}`}
              className="underline underline-offset-3"
              onClick={() => void put(id, { isPutAway: false })}
            >
              bring back
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What is being drawn, with its parts, the pictures that serve each, and what nobody has found yet. */
export function SubjectsPage() {
  useTheme(undefined);
  const sync = useSync();
  const { id } = useParams();
  const navigate = useNavigate();
  const put = usePutSubject();
  const { data: subjects, error } = useFreshSubjects();
  const gathering = gatheringOf(sync);
  const aim = useStore(aiming.store, ({ aim }) => aim);
  const notice = useStore(gathering.store, (report) => report.notice);
  const subject = subjects?.find((one) => one.id === id) ?? (id ? undefined : subjects?.[0]);
  const name = subject?.name;
  useEffect(() => {
    document.title = `${name ?? 'Subjects'} · Miradero`;
  }, [name]);
  const make = (name: string) => {
    const fresh = crypto.randomUUID();
    void put(fresh, { name, parts: [] });
    void navigate(`/subjects/${fresh}`);
  };
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />} />
      <h1 className="sr-only">Subjects</h1>
      <GatherRoom />
      {aim && <AimLine aim={aim} onEnd={() => aiming.end()} />}
      {notice && (
        <p role="status" className="border-line border-b px-6 py-1 text-[13px]">
          {notice}
        </p>
      )}
      <div className="flex min-h-0 flex-1 max-md:block max-md:overflow-y-auto">
        <nav
          aria-label="Subjects"
          className="w-56 shrink-0 overflow-y-auto border-line border-r bg-paper px-5 py-6 max-md:w-full max-md:border-r-0 max-md:border-b max-md:py-3"
        >
          <ul>
            {subjects?.map((one) => (
              <li key={one.id} className="flex items-baseline gap-2 border-line border-b">
                <Link
                  to={`/subjects/${one.id}`}
                  aria-current={one.id === subject?.id ? 'page' : undefined}
                  className="min-w-0 flex-1 py-1.5 font-serif text-[16px] leading-tight aria-[current=page]:underline aria-[current=page]:underline-offset-4"
                >
                  {one.name}
                </Link>
                <span className={`figures ${one.pictures === 0 ? 'text-vermilion' : 'text-muted'}`}>
                  {one.pictures}
                </span>
              </li>
            ))}
          </ul>
          <NewSubject onMake={make} />
          <PutAway />
        </nav>
        {subject ? (
          <SubjectRoom key={subject.id} subject={subject} />
        ) : (
          <p className="max-w-md px-8 py-10 font-serif text-[18px] text-muted italic">
            {error
              ? `The subjects do not come: ${error.message}`
              : subjects && subjects.length === 0
                ? 'Name what you draw: a ferry, a person, a place. Give it parts, and pictures to each; then you see what nobody has found yet.'
                : id
                  ? 'This subject is not here.'
                  : ''}
          </p>
        )}
      </div>
    </main>
  );
}

import type { Subject, SubjectPart } from '@miradero/core/schema';
import {
  layPart,
  movePart,
  type PartCoverage,
  type PartLine,
  type PartMove,
  type PartPlace,
} from '@miradero/core/subject';
import { type DragEvent, type FormEvent, useState } from 'react';
import { pressWords } from '../commands/index.ts';
import { OWN_DRAG, PART_DRAG } from '../gather/index.ts';

interface Altered {
  readonly parts: readonly SubjectPart[];
}

const renamed = (parts: readonly SubjectPart[], id: string, name: string): SubjectPart[] =>
  parts.map((part) => ({
    ...part,
    ...(part.id === id ? { name } : {}),
    parts: part.parts.map((inner) => (inner.id === id ? { ...inner, name } : inner)),
  }));

const withoutPart = (parts: readonly SubjectPart[], id: string): SubjectPart[] =>
  parts
    .filter((part) => part.id !== id)
    .map((part) => ({ ...part, parts: part.parts.filter((inner) => inner.id !== id) }));

const withPart = (parts: readonly SubjectPart[], name: string, under: string | undefined): SubjectPart[] => {
  const id = crypto.randomUUID();
  if (under === undefined) return [...parts, { id, name, parts: [] }];
  return parts.map((part) => (part.id === under ? { ...part, parts: [...part.parts, { id, name }] } : part));
};

function Count({ part }: { part: PartCoverage }) {
  const count = part.pictures.length;
  return (
    <span className="flex shrink-0 items-baseline gap-2 text-[12px] text-muted">
      {count > 0 && part.toScale > 0 && <span>to scale</span>}
      {part.isFlatOnly && <span className="text-vermilion">flat light only</span>}
      <span className={`figures w-6 text-right ${count === 0 ? 'text-vermilion' : 'text-ink'}`}>{count}</span>
    </span>
  );
}

function AddPart({ words, onAdd }: { words: string; onAdd: (name: string) => void }) {
  const [name, setName] = useState('');
  const add = (event: FormEvent) => {
    event.preventDefault();
    if (name.trim()) onAdd(name.trim());
    setName('');
  };
  return (
    <form onSubmit={add}>
      <input
        aria-label={words}
        placeholder={words}
        maxLength={120}
        className="w-full border-line border-b bg-transparent py-1 text-[13px] placeholder:text-muted placeholder:italic"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
    </form>
  );
}

const MOVES: readonly (readonly [PartMove, string, string])[] = [
  ['up', 'up', '$mod+ArrowUp'],
  ['down', 'down', '$mod+ArrowDown'],
  ['in', 'into the one above', '$mod+ArrowRight'],
  ['out', 'out of it', '$mod+ArrowLeft'],
];

/** The parts of a subject as a checklist: how many pictures serve each, zero included. Pictures are dropped on them. */
export function PartsList({
  subject,
  lines,
  chosen,
  onChoose,
  onGive,
  onAlter,
}: {
  subject: Subject;
  lines: readonly PartLine[];
  chosen: string | undefined;
  onChoose: (part: string | undefined) => void;
  onGive: (part: { id: string; name: string }, pictures: readonly string[]) => void;
  onAlter: (altered: Altered) => void;
}) {
  const alter = (parts: readonly SubjectPart[]) => onAlter({ parts });
  const chosenTop = subject.parts.find(({ id }) => id === chosen);
  const [aimed, setAimed] = useState<{ readonly id: string; readonly place: PartPlace }>();
  /** Where a part that is dragged over a line would be laid: its upper and lower quarter are edges, its middle is within. */
  const placeAt = (event: DragEvent<HTMLElement>): PartPlace => {
    const { top, height } = event.currentTarget.getBoundingClientRect();
    const share = (event.clientY - top) / height;
    return share < 0.28 ? 'before' : share > 0.72 ? 'after' : 'within';
  };
  const onOver = (event: DragEvent<HTMLElement>, id: string) => {
    const { types } = event.dataTransfer;
    if (!types.includes(OWN_DRAG) && !types.includes(PART_DRAG)) return;
    event.preventDefault();
    if (types.includes(PART_DRAG)) setAimed({ id, place: placeAt(event) });
  };
  const onDrop = (event: DragEvent<HTMLElement>, part: PartLine) => {
    const moved = event.dataTransfer.getData(PART_DRAG);
    const ids = event.dataTransfer.getData(OWN_DRAG);
    setAimed(undefined);
    if (!moved && !ids) return;
    event.preventDefault();
    if (moved) alter([...layPart(subject.parts, moved, placeAt(event), part.id)]);
    else onGive(part, ids.split(','));
  };
  const move = (to: PartMove) => chosen && alter([...movePart(subject.parts, chosen, to)]);
  return (
    <section aria-label="Parts">
      <ul>
        {lines.map((part, index) => (
          <li
            key={part.id}
            className={`part flex items-baseline gap-2 border-line border-b ${part.depth === 1 ? 'pl-5' : ''} ${chosen === part.id ? 'bg-paper' : ''}`}
            {...(aimed?.id === part.id ? { 'data-aimed': aimed.place } : {})}
            onDragOver={(event) => onOver(event, part.id)}
            onDragLeave={() => setAimed(undefined)}
            onDrop={(event) => onDrop(event, part)}
          >
            <button
              type="button"
              draggable
              onDragStart={(event) => {
                event.dataTransfer.setData(PART_DRAG, part.id);
                event.dataTransfer.effectAllowed = 'move';
              }}
              onDragEnd={() => setAimed(undefined)}
              aria-pressed={chosen === part.id}
              className="min-w-0 flex-1 truncate py-1.5 text-left font-serif text-[16px]"
              onClick={() => onChoose(chosen === part.id ? undefined : part.id)}
            >
              {index < 9 && (
                <kbd aria-hidden className="key mr-2">
                  {index + 1}
                </kbd>
              )}
              {part.name}
            </button>
            {part.coverage && <Count part={part.coverage} />}
          </li>
        ))}
      </ul>
      <AddPart words="another part" onAdd={(name) => alter(withPart(subject.parts, name, undefined))} />
      {chosenTop && (
        <AddPart
          words={`a part of ${chosenTop.name}`}
          onAdd={(name) => alter(withPart(subject.parts, name, chosenTop.id))}
        />
      )}
      {chosen && (
        <p className="flex flex-wrap gap-x-4 pt-2 text-[13px]">
          <span className="text-muted">move it</span>
          {MOVES.map(([to, words, key]) => (
            <button
              key={to}
              type="button"
              title={`${pressWords(key)}; or drag it`}
              className="underline underline-offset-3"
              onClick={() => move(to)}
            >
              {words}
            </button>
          ))}
        </p>
      )}
      {chosen && (
        <div className="flex flex-wrap gap-x-4 gap-y-1 pt-2 text-[13px]">
          <AddPart
            words="another name for it"
            onAdd={(name) => alter(renamed(subject.parts, chosen, name))}
          />
          <button
            type="button"
            className="whitespace-nowrap text-muted underline underline-offset-3"
            onClick={() => {
              alter(withoutPart(subject.parts, chosen));
              onChoose(undefined);
            }}
          >
            no longer a part
          </button>
        </div>
      )}
    </section>
  );
}

import type { Subject, SubjectPart } from '@miradero/core/schema';
import type { Coverage, PartCoverage } from '@miradero/core/subject';
import { type FormEvent, useState } from 'react';
import { OWN_DRAG } from '../gather/index.ts';

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

/** The parts of a subject as a checklist: how many pictures serve each, zero included. Pictures are dropped on them. */
export function PartsList({
  subject,
  coverage,
  chosen,
  onChoose,
  onGive,
  onAlter,
}: {
  subject: Subject;
  coverage: Coverage | undefined;
  chosen: string | undefined;
  onChoose: (part: string | undefined) => void;
  onGive: (part: { id: string; name: string }, pictures: readonly string[]) => void;
  onAlter: (altered: Altered) => void;
}) {
  const rows = coverage?.parts ?? [];
  const alter = (parts: readonly SubjectPart[]) => onAlter({ parts });
  const chosenTop = subject.parts.find(({ id }) => id === chosen);
  return (
    <section aria-label="Parts">
      <ul>
        {rows.map((part, index) => (
          <li
            key={part.id}
            className={`flex items-baseline gap-2 border-line border-b ${part.depth === 1 ? 'pl-5' : ''} ${chosen === part.id ? 'bg-paper' : ''}`}
            onDragOver={(event) => event.dataTransfer.types.includes(OWN_DRAG) && event.preventDefault()}
            onDrop={(event) => {
              const ids = event.dataTransfer.getData(OWN_DRAG);
              if (!ids) return;
              event.preventDefault();
              onGive(part, ids.split(','));
            }}
          >
            <button
              type="button"
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
            <Count part={part} />
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
        <div className="flex gap-4 pt-2 text-[13px]">
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

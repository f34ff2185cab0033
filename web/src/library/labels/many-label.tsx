import { type Bulk, PILES, type Picture, type Tag, type UseMark } from '@miradero/core/schema';
import { type FormEvent, type ReactNode, useState } from 'react';
import { useSync } from '../../shell/index.ts';
import type { Asked } from '../finding/library-query.ts';
import { useLibraryWords } from '../finding/use-library.ts';
import { bulkTeller } from '../wall/bulk-teller.ts';
import { Fold } from './label-row.tsx';
import { SayField } from './say-field.tsx';
import { tellSaying } from './sayings.ts';

type Told = Omit<Bulk, 'pictures'>;
type Tell = (what: Told, words: string) => void;

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-line border-t py-2">
      <h3 className="font-serif text-[14px] text-muted italic">{title}</h3>
      {children}
    </section>
  );
}

/** A line of text that is said of all of them at Enter. */
function Line({
  label,
  placeholder,
  suggestions,
  onSay,
}: {
  label: string;
  placeholder: string;
  suggestions?: readonly string[];
  onSay: (text: string) => void;
}) {
  const [text, setText] = useState('');
  const id = `list-${label.replaceAll(' ', '-')}`;
  const say = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim()) onSay(text.trim());
    setText('');
  };
  return (
    <form onSubmit={say}>
      <input
        aria-label={label}
        placeholder={placeholder}
        list={suggestions ? id : undefined}
        maxLength={200}
        className="w-full border-line border-b bg-transparent py-0.5 text-[13px] placeholder:text-muted placeholder:italic"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {suggestions && (
        <datalist id={id}>
          {suggestions.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
    </form>
  );
}

/** The colours by which tags are known on the wall, chosen here. */
function TagColours({ tags }: { tags: readonly Tag[] }) {
  const { outbox, steps } = useSync();
  const set = (name: string, colour: string | null) => {
    const path = '/api/library/tags';
    const was = tags.find((tag) => tag.name === name)?.colour ?? null;
    const [before, after] = [{ colour: was }, { colour }];
    steps.record({ kind: 'facts', path, before, after, key: { name } }, { words: `Colour of ${name}` });
    void outbox.put({ kind: 'patch', path, body: { name, colour } });
  };
  if (tags.length === 0) return null;
  return (
    <p className="flex flex-wrap items-center gap-x-3 pt-1 text-[12px] text-muted">
      colours
      {tags.map(({ name, colour }) => (
        <span key={name} className="flex items-center gap-1">
          <input
            type="color"
            aria-label={`Colour of ${name}`}
            className="h-4 w-5 border border-line"
            defaultValue={colour ?? '#797979'}
            onBlur={(event) => event.target.value !== (colour ?? '#797979') && set(name, event.target.value)}
          />
          {name}
          {colour && (
            <button type="button" className="underline" onClick={() => set(name, null)}>
              none
            </button>
          )}
        </span>
      ))}
    </p>
  );
}

const PANEL =
  'flex w-72 shrink-0 flex-col overflow-y-auto border-line border-l bg-raised px-4 py-3 max-md:absolute max-md:inset-x-0 max-md:bottom-0 max-md:z-10 max-md:h-1/2 max-md:w-full max-md:border-t max-md:border-l-0';

/** What stands in the place of the label while nothing is selected. */
export function NothingSelected({ tags, onAsk }: { tags: readonly Tag[]; onAsk: (part: Asked) => void }) {
  return (
    <aside aria-label="Nothing is selected" className={`${PANEL} max-md:hidden`}>
      <h2 className="sr-only">Nothing is selected</h2>
      <p className="mb-3 font-serif text-[16px] text-muted italic">
        Press a picture to say what it is for. A press with Shift takes all between, with Ctrl one more.
      </p>
      <Section title="Piles">
        <div className="flex gap-3">
          {PILES.map((pile) => (
            <button
              key={pile}
              type="button"
              className="choice py-0.5 text-[13px]"
              onClick={() => onAsk({ pile })}
            >
              {pile}
            </button>
          ))}
        </div>
      </Section>
      {tags.length > 0 && (
        <Section title="Tags">
          <ul>
            {tags.slice(0, 40).map(({ name, colour, count }) => (
              <li key={name}>
                <button
                  type="button"
                  className="flex w-full items-baseline gap-2 py-0.5 text-left text-[13px] hover:underline"
                  onClick={() => onAsk({ tag: name })}
                >
                  <span
                    aria-hidden
                    className="inline-block size-2 border border-line"
                    style={colour ? { background: colour } : {}}
                  />
                  <span className="flex-1">{name}</span>
                  <span className="figures text-muted">{count}</span>
                </button>
              </li>
            ))}
          </ul>
        </Section>
      )}
    </aside>
  );
}

const MARKS: readonly (readonly [UseMark, string])[] = [
  ['look', 'only to look at'],
  ['work', 'may go into the work'],
];

/** What can be said of everything that is selected at once; each saying can be taken back. */
export function ManyLabel({ pictures }: { pictures: readonly Picture[] }) {
  const sync = useSync();
  const { tags, licences, creators } = useLibraryWords();
  const tell: Tell = (what, words) =>
    void bulkTeller.tell(sync, { pictures: pictures.map(({ id }) => id), ...what }, words);
  const tagged = new Set(pictures.flatMap((picture) => picture.tags));
  const same = <T,>(of: (picture: Picture) => T): T | undefined =>
    pictures.every((picture) => of(picture) === of(pictures[0]!)) ? of(pictures[0]!) : undefined;
  const creator = same(({ source }) => source.creator);
  const creatorWords = creator === undefined ? 'not the same of all' : (creator ?? 'nobody named');
  const isMarked = (mark: UseMark) => same(({ useMark }) => useMark) === mark;
  const title = pictures.length === 1 ? pictures[0]!.name : `${pictures.length} pictures`;
  return (
    <aside aria-label="What is selected" className={PANEL}>
      <h2 className="mb-2 font-serif text-[20px] leading-tight">{title}</h2>
      <Line
        label="Name for all"
        placeholder={pictures.length === 1 ? 'another name' : 'a name for the series'}
        onSay={(series) => tell({ series }, `Named ${series}`)}
      />
      <SayField
        pictures={pictures}
        label={pictures.length === 1 ? 'What it is here for' : 'What they are here for'}
        onSay={(saying, isGiven, words) => {
          const { told, words: said } = tellSaying(saying, isGiven, words);
          tell(told, said);
        }}
      />
      {tagged.size > 0 && (
        <Fold as="h3" title="Colours of its tags" brief={[...tagged].join(', ')}>
          <TagColours tags={tags.filter(({ name }) => tagged.has(name))} />
        </Fold>
      )}
      <Fold as="h3" title="Where it comes from" brief={creatorWords}>
        <Line
          label="Made by, for all"
          placeholder={same(({ source }) => source.creator) ?? 'made by'}
          suggestions={creators.map(({ name }) => name)}
          onSay={(creator) => tell({ source: { creator } }, `Made by ${creator}`)}
        />
        <Line
          label="Licence, for all"
          placeholder={same(({ source }) => source.licence) ?? 'licence'}
          suggestions={licences.map(({ name }) => name)}
          onSay={(licence) => tell({ source: { licence } }, `Under ${licence}`)}
        />
        <Line
          label="Page, for all"
          placeholder={same(({ source }) => source.page) ?? 'address of its page'}
          onSay={(page) =>
            /^https?:\/\//.test(page) && URL.canParse(page)
              ? tell({ source: { page } }, 'Page set')
              : bulkTeller.say('An address begins with http:// or https://.')
          }
        />
        <div className="flex flex-wrap gap-x-3 pt-1">
          {MARKS.map(([mark, words]) => (
            <button
              key={words}
              type="button"
              aria-pressed={isMarked(mark)}
              className="choice py-0.5 text-[13px]"
              onClick={() =>
                tell(
                  { useMark: isMarked(mark) ? null : mark },
                  isMarked(mark) ? 'Mark taken off' : `Marked “${words}”`,
                )
              }
            >
              {words}
            </button>
          ))}
        </div>
      </Fold>
    </aside>
  );
}

import type { LibrarySort, SavedSearch, Subject } from '@miradero/core/schema';
import { PILES, PURPOSES, SORTS } from '@miradero/core/schema';
import { X } from 'lucide-react';
import { Popover } from 'radix-ui';
import { type ReactNode, type RefObject, useEffect, useRef, useState } from 'react';
import { useBoards, useSubjects, useSync } from '../shell/index.ts';
import {
  type Asked,
  askedOf,
  filterWords,
  LIGHTNESS,
  parametersOf,
  SORT_WORDS,
  sortWords,
  without,
} from './library-query.ts';
import { useLibraryWords } from './use-library.ts';

/** Typing asks again after so short a rest. */
const REST_MS = 120;

function Choice({ isOn, onClick, children }: { isOn?: boolean; onClick: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={isOn ?? false}
      className="choice whitespace-nowrap py-0.5 text-left text-[13px]"
      onClick={onClick}
    >
      {children}
    </button>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mb-3 break-inside-avoid">
      <h2 className="mb-0.5 font-serif text-[14px] text-muted italic">{title}</h2>
      <div className="flex flex-wrap gap-x-3">{children}</div>
    </section>
  );
}

function PartChoices({
  subjects,
  asked,
  set,
}: {
  subjects: readonly Subject[];
  asked: Asked;
  set: (part: Asked) => void;
}) {
  return (
    <>
      {subjects.map(({ id, name, parts }) => (
        <Group key={id} title={name}>
          <Choice isOn={asked.subject === id} onClick={() => set({ subject: id })}>
            all of it
          </Choice>
          {parts.flatMap((part) =>
            [part, ...part.parts].map((one) => (
              <Choice key={one.id} isOn={asked.part === one.id} onClick={() => set({ part: one.id })}>
                {one.name}
              </Choice>
            )),
          )}
        </Group>
      ))}
    </>
  );
}

/** Everything that can be asked for beside words; a press adds it, and the search says it in its line. */
function Filters({ asked, onAsk }: { asked: Asked; onAsk: (asked: Asked) => void }) {
  const { data: subjects = [] } = useSubjects();
  const { tags, licences, creators } = useLibraryWords();
  const set = (part: Asked) => onAsk({ ...asked, ...part });
  const setLightness = (part: Asked) => onAsk({ ...without(asked, ['darkest', 'lightest']), ...part });
  return (
    <div className="columns-3 gap-6 max-md:columns-1">
      <Group title="for">
        {PURPOSES.map((purpose) => (
          <Choice key={purpose} isOn={asked.purpose === purpose} onClick={() => set({ purpose })}>
            {purpose}
          </Choice>
        ))}
      </Group>
      <Group title="on the pile">
        {[...PILES, 'none' as const].map((pile) => (
          <Choice key={pile} isOn={asked.pile === pile} onClick={() => set({ pile })}>
            {pile}
          </Choice>
        ))}
      </Group>
      <Group title="of kind">
        {(['still', 'animated', 'clip', 'model'] as const).map((kind) => (
          <Choice key={kind} isOn={asked.kind === kind} onClick={() => set({ kind })}>
            {kind}
          </Choice>
        ))}
      </Group>
      <Group title="in colour">
        <label className="flex items-center gap-2 text-[13px]">
          <input
            type="color"
            aria-label="Colour to look for"
            className="h-6 w-10 border border-line"
            value={`#${asked.colour ?? '7a5a3a'}`}
            onChange={(event) => set({ colour: event.target.value.slice(1) })}
          />
          near this one
        </label>
      </Group>
      <Group title="in lightness">
        {(['dark', 'middle', 'light'] as const).map((step) => (
          <Choice key={step} onClick={() => setLightness(LIGHTNESS[step])}>
            {step}
          </Choice>
        ))}
      </Group>
      <Group title="in size">
        {[1000, 2000, 4000].map((px) => (
          <Choice key={px} isOn={asked.leastPx === px} onClick={() => set({ leastPx: px })}>
            at least {px.toLocaleString('en')} px
          </Choice>
        ))}
      </Group>
      <Group title="added">
        <label className="text-[13px]">
          since{' '}
          <input
            type="date"
            className="border-line border-b bg-transparent"
            value={asked.from ?? ''}
            onChange={(event) => set({ from: event.target.value })}
          />
        </label>
        <label className="text-[13px]">
          until{' '}
          <input
            type="date"
            className="border-line border-b bg-transparent"
            value={asked.to ?? ''}
            onChange={(event) => set({ to: event.target.value })}
          />
        </label>
      </Group>
      <Group title="to be used">
        <Choice isOn={asked.useMark === 'work'} onClick={() => set({ useMark: 'work' })}>
          may go into the work
        </Choice>
        <Choice isOn={asked.useMark === 'look'} onClick={() => set({ useMark: 'look' })}>
          only to look at
        </Choice>
        <Choice isOn={asked.useMark === 'unsaid'} onClick={() => set({ useMark: 'unsaid' })}>
          not said
        </Choice>
      </Group>
      <Group title="that">
        <Choice isOn={asked.onNoBoard ?? false} onClick={() => set({ onNoBoard: true })}>
          stands on no board
        </Choice>
        <Choice isOn={asked.noSource ?? false} onClick={() => set({ noSource: true })}>
          has no source
        </Choice>
        <Choice isOn={asked.hasCopies ?? false} onClick={() => set({ hasCopies: true })}>
          has near copies
        </Choice>
        <Choice isOn={asked.toScale ?? false} onClick={() => set({ toScale: true })}>
          is to scale
        </Choice>
        <Choice isOn={asked.isPutAway ?? false} onClick={() => set({ isPutAway: true })}>
          is put away
        </Choice>
      </Group>
      {tags.length > 0 && (
        <Group title="tagged">
          {tags.slice(0, 30).map(({ name, count, colour }) => (
            <Choice key={name} isOn={asked.tag === name} onClick={() => set({ tag: name })}>
              {colour && (
                <span aria-hidden className="mr-1 inline-block size-2" style={{ background: colour }} />
              )}
              {name} <span className="figures text-muted">{count}</span>
            </Choice>
          ))}
        </Group>
      )}
      <PartChoices
        subjects={subjects}
        asked={asked}
        set={(part) => onAsk({ ...without(asked, ['part', 'subject']), ...part })}
      />
      {creators.length > 0 && (
        <Group title="by">
          {creators.slice(0, 12).map(({ name }) => (
            <Choice key={name} isOn={asked.creator === name} onClick={() => set({ creator: name })}>
              {name}
            </Choice>
          ))}
        </Group>
      )}
      {licences.length > 0 && (
        <Group title="under">
          {licences.slice(0, 12).map(({ name }) => (
            <Choice key={name} isOn={asked.licence === name} onClick={() => set({ licence: name })}>
              {name}
            </Choice>
          ))}
        </Group>
      )}
    </div>
  );
}

const card = 'z-40 border border-line bg-raised p-4 shadow-[0_8px_28px_rgb(0_0_0/0.18)]';

/** Searches that a person keeps, and keeping this one. */
function Saved({ asked, onAsk }: { asked: Asked; onAsk: (asked: Asked) => void }) {
  const { settings } = useSync();
  const [, redraw] = useState(0);
  useEffect(() => settings.subscribe(() => redraw((count) => count + 1)), [settings]);
  const [name, setName] = useState('');
  const saved = settings.settings.searches ?? [];
  const keep = (searches: SavedSearch[]) => void settings.set({ searches });
  return (
    <>
      {saved.map((search) => (
        <p key={search.name} className="flex items-baseline gap-3 border-line border-b py-1">
          <Popover.Close asChild>
            <button
              type="button"
              className="flex-1 text-left font-serif text-[15px] hover:underline"
              onClick={() => onAsk(askedOf(new URLSearchParams(search.query)))}
            >
              {search.name}
            </button>
          </Popover.Close>
          <button
            type="button"
            aria-label={`Forget ${search.name}`}
            className="text-muted"
            onClick={() => keep(saved.filter((one) => one !== search))}
          >
            <X size={13} aria-hidden />
          </button>
        </p>
      ))}
      {saved.length === 0 && <p className="mb-2 text-[13px] text-muted">No search is kept yet.</p>}
      <form
        className="mt-3 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const kept = { name: name.trim(), query: parametersOf(asked).toString() };
          if (kept.name) keep([...saved.filter((one) => one.name !== kept.name), kept]);
          setName('');
        }}
      >
        <input
          aria-label="Name for this search"
          placeholder="keep this search as …"
          className="min-w-0 flex-1 border-line border-b bg-transparent px-1 placeholder:text-muted"
          maxLength={100}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <button type="submit" className="underline underline-offset-3">
          keep
        </button>
      </form>
    </>
  );
}

/** What is looked for, as one sentence: how many, what they must be, in which order. */
export function SearchLine({
  asked,
  onAsk,
  total,
  isOld,
  isForgiven,
  nameOf,
  field,
}: {
  asked: Asked;
  onAsk: (asked: Asked) => void;
  /** Undefined where nobody knows. */
  total: number | undefined;
  /** What is shown was found before the server went. */
  isOld: boolean;
  isForgiven: boolean;
  nameOf: (picture: string) => string;
  field: RefObject<HTMLInputElement | null>;
}) {
  const { data: subjects = [] } = useSubjects();
  const { data: boards = [] } = useBoards();
  const [text, setText] = useState(asked.words ?? '');
  const known = asked.words ?? '';
  const sent = useRef(known);
  useEffect(() => {
    // What was asked from here comes back as known while somebody goes on typing: it must not overwrite that.
    if (known === sent.current) return;
    sent.current = known;
    setText(known);
  }, [known]);
  useEffect(() => {
    if (text.trim() === known) return;
    const timer = setTimeout(() => {
      sent.current = text.trim();
      onAsk({ ...asked, words: text.trim() });
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [text, known, asked, onAsk]);
  const filters = filterWords(
    asked,
    subjects,
    nameOf,
    (id) => boards.find((board) => board.id === id)?.name ?? 'a board',
  );
  const link = 'whitespace-nowrap underline decoration-1 underline-offset-3';
  return (
    <div className="flex shrink-0 flex-wrap items-baseline gap-x-3 gap-y-1 border-line border-b bg-paper px-5 py-2">
      <input
        ref={field}
        type="search"
        aria-label="Find pictures by word"
        placeholder="Find by word"
        className="w-56 max-md:w-full border-ink border-b bg-transparent px-0.5 font-serif text-[20px] placeholder:text-muted placeholder:italic"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') event.currentTarget.blur();
        }}
      />
      <p className="flex min-w-0 flex-1 flex-wrap items-baseline gap-x-2.5 text-[14px]" data-testid="asked">
        <span role="status">
          {total === undefined ? (
            '… pictures'
          ) : (
            <>
              <span className="figures text-[13px]">{total.toLocaleString('en')}</span>{' '}
              {total === 1 ? 'picture' : 'pictures'}
            </>
          )}
          {isOld && <span className="text-vermilion">, as it was before the server went</span>}
          {isForgiven && total !== 0 && <span className="text-muted"> spelt nearly so</span>}
        </span>
        {filters.map(({ keys, words, colour }) => (
          <span key={words} className="inline-flex items-baseline gap-1 whitespace-nowrap">
            {colour && (
              <span
                aria-hidden
                className="inline-block size-3 border border-line"
                style={{ background: colour }}
              />
            )}
            {words}
            <button
              type="button"
              aria-label={`No longer ${words}`}
              className="self-center text-muted hover:text-ink"
              onClick={() => onAsk(without(asked, keys))}
            >
              <X size={12} aria-hidden />
            </button>
          </span>
        ))}
        <Popover.Root>
          <Popover.Trigger className={link}>{filters.length > 0 ? 'and …' : 'that are …'}</Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              aria-label="What is looked for"
              align="start"
              sideOffset={8}
              className={`${card} max-h-[70vh] w-[760px] max-w-[94vw] overflow-y-auto`}
            >
              <Filters asked={asked} onAsk={onAsk} />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
        <Popover.Root>
          <Popover.Trigger className={link}>{sortWords(asked)}</Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              aria-label="In which order"
              align="start"
              sideOffset={8}
              className={`${card} grid gap-0.5`}
            >
              {(SORTS as readonly LibrarySort[]).flatMap((sort) =>
                [false, true].map((isReversed) => (
                  <Popover.Close asChild key={`${sort}${isReversed}`}>
                    <button
                      type="button"
                      className="text-left text-[13px] hover:underline"
                      onClick={() => onAsk({ ...asked, sort, isReversed })}
                    >
                      {SORT_WORDS[sort][isReversed ? 1 : 0]}
                    </button>
                  </Popover.Close>
                )),
              )}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      </p>
      <Popover.Root>
        <Popover.Trigger className={`${link} text-[13px]`}>kept searches</Popover.Trigger>
        <Popover.Portal>
          <Popover.Content aria-label="Kept searches" align="end" sideOffset={8} className={`${card} w-72`}>
            <Saved asked={asked} onAsk={onAsk} />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}

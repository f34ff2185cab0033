import type { LibrarySort, SavedSearch } from '@miradero/core/schema';
import { SORTS } from '@miradero/core/schema';
import { X } from 'lucide-react';
import { Popover } from 'radix-ui';
import { type RefObject, useEffect, useRef, useState } from 'react';
import { LookElsewhere } from '../../gather/index.ts';
import { useBoards, useSubjects, useSync, useWayBack } from '../../shell/index.ts';
import { useStore } from '../../state/index.ts';
import { Filters } from './filters.tsx';
import {
  type Asked,
  askedOf,
  filterWords,
  parametersOf,
  SORT_WORDS,
  sortWords,
  without,
} from './library-query.ts';

/** Typing asks again after so short a rest. */
const REST_MS = 120;

const card = 'z-40 border border-line bg-raised p-4 shadow-[0_8px_28px_rgb(0_0_0/0.18)]';

/** Searches that a person keeps, and keeping this one. */
function Saved({ asked, onAsk }: { asked: Asked; onAsk: (asked: Asked) => void }) {
  const { settings } = useSync();
  const { searches: saved = [] } = useStore(settings.store);
  const [name, setName] = useState('');
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
  /** `isTyping`: the search before is being typed on. */
  onAsk: (asked: Asked, isTyping?: boolean) => void;
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
  const wayBack = useWayBack();
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
      onAsk({ ...asked, words: text.trim() }, true);
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
        onFocus={wayBack.onFocus}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Escape' && event.key !== 'Enter') return;
          // By itself Escape would throw away what is looked for.
          event.preventDefault();
          if (event.key === 'Escape') wayBack.leave(event);
          else document.querySelector<HTMLElement>('[role="listbox"][aria-label="Pictures"]')?.focus();
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
          <span key={words} className="inline-flex max-w-full items-baseline gap-1 whitespace-nowrap">
            {colour && (
              <span
                aria-hidden
                className="inline-block size-3 shrink-0 border border-line"
                style={{ background: colour }}
              />
            )}
            <span className="min-w-0 truncate" title={words}>
              {words}
            </span>
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
      <LookElsewhere words={asked.words ?? ''} className={`${link} text-[13px]`} />
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

import type { Picture } from '@miradero/core/schema';
import { Check, X } from 'lucide-react';
import { type KeyboardEvent, useId, useMemo, useRef, useState } from 'react';
import { useSubjects, useWayBack } from '../../shell/index.ts';
import { usePutSubject } from '../../subjects/index.ts';
import { useLibraryWords } from '../finding/use-library.ts';
import {
  fitting,
  holdsOfMany,
  type Making,
  makings,
  type Offered,
  type Saying,
  sayingsOf,
  subjectsShown,
} from './sayings.ts';

const MOST = 9;

/** What is said already, as filled words; a press takes one away. */
function Said({
  said,
  onSay,
}: {
  said: readonly (Offered & { readonly state: true | 'mixed' })[];
  onSay: (saying: Saying, isGiven: boolean) => void;
}) {
  return (
    <ul aria-label="What is said of it" className="flex flex-wrap gap-1.5">
      {said.map(({ id, saying, words, about, state }) => {
        const isQuiet = saying.kind === 'pile' || (saying.kind === 'purpose' && saying.isNot);
        const look =
          state === 'mixed'
            ? 'border-verdigris text-ink'
            : isQuiet
              ? 'border-line bg-line text-ink'
              : 'border-verdigris bg-verdigris text-paper';
        const shown = saying.kind === 'pile' ? `pile: ${words}` : words;
        return (
          <li key={id} className={`flex max-w-full items-center border text-[13px] ${look}`}>
            {state === 'mixed' ? (
              <button
                type="button"
                title={`${shown}: said of some, press for all`}
                className="min-w-0 truncate px-2 py-0.5"
                onClick={() => onSay(saying, true)}
              >
                {shown} <span className="italic">some</span>
              </button>
            ) : (
              <span title={about} className="min-w-0 truncate py-0.5 pl-2">
                {shown}
              </span>
            )}
            <button
              type="button"
              aria-label={`No longer ${shown}`}
              className="chip-cross grid shrink-0 place-items-center self-stretch px-1.5"
              onClick={() => onSay(saying, false)}
            >
              <X size={12} aria-hidden />
            </button>
          </li>
        );
      })}
      {said.length === 0 && <li className="text-[13px] text-muted italic">Nothing is said of it yet.</li>}
    </ul>
  );
}

const makingWords = (making: Making): string =>
  making.kind === 'part' ? `new part of ${making.subject.name}` : `new ${making.kind}`;

/**
 * What pictures are here for, in one line, and one field that finds subjects, parts, purposes, tags and piles as one types;
 * what is not there yet is made in place.
 */
export function SayField({
  pictures,
  label,
  onSay,
}: {
  pictures: readonly Picture[];
  /** What the field is called. */
  label: string;
  /** @param words - the saying as it is shown */
  onSay: (saying: Saying, isGiven: boolean, words: string) => void;
}) {
  const { data: subjects = [] } = useSubjects();
  const words = useLibraryWords();
  const put = usePutSubject();
  const [text, setText] = useState('');
  const [isOpen, setOpen] = useState(false);
  const [active, setActive] = useState(0);
  const wayBack = useWayBack();
  const list = useRef<HTMLDivElement>(null);
  const id = useId();
  const all = useMemo(() => sayingsOf(subjects, words), [subjects, words]);
  // A tag that was just made is known to the picture before the library has counted it.
  const own = new Set(all.map((one) => one.id));
  const fresh = [...new Set(pictures.flatMap(({ tags }) => tags))]
    .filter((name) => !own.has(`tag ${name}`))
    .map(
      (name): Offered => ({
        id: `tag ${name}`,
        saying: { kind: 'tag', name },
        words: name,
        about: 'tag',
        count: undefined,
      }),
    );
  const known = [...all, ...fresh];
  const said = known.flatMap((one) => {
    const state = holdsOfMany(pictures, one.saying);
    return state === false ? [] : [{ ...one, state }];
  });
  const found = isOpen ? fitting(known, text, MOST) : [];
  const made = isOpen ? makings(text, known, subjects, subjectsShown(pictures, subjects)) : [];
  const last = found.length + made.length - 1;
  const at = Math.min(active, last);

  /** The list goes until more is typed: it lies over what is below. */
  const done = () => {
    setText('');
    setActive(0);
    setOpen(false);
  };
  const say = (one: Offered) => {
    onSay(one.saying, holdsOfMany(pictures, one.saying) !== true, one.words);
    done();
  };
  const make = async (making: Making) => {
    const fresh = crypto.randomUUID();
    if (making.kind === 'tag') onSay({ kind: 'tag', name: making.name }, true, making.name);
    else if (making.kind === 'subject') {
      await put(fresh, { name: making.name, parts: [] });
      onSay({ kind: 'part', id: fresh }, true, making.name);
    } else {
      const { subject, name } = making;
      await put(subject.id, {
        parts: [...subject.parts, { id: fresh, name, parts: [] }],
      });
      onSay({ kind: 'part', id: fresh }, true, name);
    }
    done();
  };
  const choose = (index: number) => {
    const one = found[index];
    const making = made[index - found.length];
    if (one) say(one);
    else if (making) void make(making);
  };
  const goTo = (index: number) => {
    setActive(index);
    list.current?.children[index]?.scrollIntoView({ block: 'nearest' });
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (step !== 0) {
      event.preventDefault();
      setOpen(true);
      if (last >= 0) goTo((at + step + last + 1) % (last + 1));
    } else if (event.key === 'Enter') {
      event.preventDefault();
      if (isOpen && last >= 0) choose(at);
    } else if (event.key === 'Escape') {
      event.preventDefault();
      if (text !== '') setText('');
      else if (isOpen) setOpen(false);
      else wayBack.leave(event);
    } else return;
    event.stopPropagation();
  };
  const option = (index: number) => `${id}-${index}`;
  const row =
    'flex w-full items-baseline gap-2 px-2.5 py-1 text-left text-[13px] aria-[selected=true]:bg-paper pointer-coarse:min-h-10 pointer-coarse:items-center';
  return (
    <div className="relative py-2">
      <Said
        said={said}
        onSay={(saying, isGiven) => onSay(saying, isGiven, said.find((one) => one.saying === saying)!.words)}
      />
      <input
        role="combobox"
        aria-label={label}
        aria-expanded={isOpen && last >= 0}
        aria-controls={`${id}-list`}
        aria-autocomplete="list"
        aria-activedescendant={isOpen && at >= 0 ? option(at) : undefined}
        placeholder="part, purpose, tag …"
        maxLength={120}
        className="mt-2 w-full border border-line bg-paper px-2.5 py-1.5 text-[14px] placeholder:text-muted focus:border-ink"
        value={text}
        onFocus={wayBack.onFocus}
        onClick={() => setOpen(true)}
        onBlur={() => {
          setOpen(false);
          setActive(0);
        }}
        onChange={(event) => {
          setText(event.target.value);
          setOpen(true);
          setActive(0);
        }}
        onKeyDown={onKeyDown}
      />
      {isOpen && last >= 0 && (
        <div
          ref={list}
          id={`${id}-list`}
          role="listbox"
          aria-label="What can be said"
          aria-multiselectable="true"
          // Over what is below: nothing there moves when it comes and goes.
          className="absolute inset-x-0 top-full z-20 -mt-2 max-h-80 overflow-y-auto border border-line border-t-0 bg-raised shadow-[0_8px_28px_rgb(0_0_0/0.18)]"
          // The field keeps the keyboard.
          onPointerDown={(event) => event.preventDefault()}
        >
          {found.map((one, index) => {
            const state = holdsOfMany(pictures, one.saying);
            return (
              // biome-ignore lint/a11y/useFocusableInteractive lint/a11y/useKeyWithClickEvents: the field has the keyboard
              <div
                key={one.id}
                id={option(index)}
                role="option"
                aria-selected={index === at}
                aria-checked={state}
                className={row}
                onClick={() => choose(index)}
              >
                <span className="w-3 shrink-0 self-center" aria-hidden>
                  {state === true ? <Check size={12} /> : state === 'mixed' ? '–' : ''}
                </span>
                <span className="min-w-0 flex-1 break-words">
                  {one.words} <span className="text-muted">{one.about}</span>
                </span>
                {one.count !== undefined && (
                  <span className={`figures shrink-0 ${one.count === 0 ? 'text-vermilion' : 'text-muted'}`}>
                    {one.count}
                  </span>
                )}
              </div>
            );
          })}
          {made.map((making, index) => (
            // biome-ignore lint/a11y/useFocusableInteractive lint/a11y/useKeyWithClickEvents: the field has the keyboard
            <div
              key={`${making.kind}${making.kind === 'part' ? making.subject.id : ''}`}
              id={option(found.length + index)}
              role="option"
              aria-selected={found.length + index === at}
              className={row}
              onClick={() => choose(found.length + index)}
            >
              <span className="w-3 shrink-0" aria-hidden />
              <span className="min-w-0 flex-1 break-words text-muted">
                {makingWords(making)} <span className="font-serif text-ink italic">{making.name}</span>
              </span>
            </div>
          ))}
        </div>
      )}
    </div>
  );
}

import { boundsOf, seenAs } from '@miradero/core/board';
import { wordsOf } from '@miradero/core/items';
import { keepPreviousData, useQueries } from '@tanstack/react-query';
import { Command as List } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import {
  type FindingMeans,
  type Found,
  type Keymap,
  pressWords,
  type Registry,
  scoreOf,
} from '../commands/index.ts';
import { BOARD, type Desk } from '../desk/index.ts';
import { Sheet } from '../shell/index.ts';

interface Named extends Found {
  /** Other words by which it is found. */
  readonly also?: string;
  readonly keys?: string;
}

interface NamedGroup {
  readonly heading: string;
  readonly entries: readonly Named[];
  /** The server found them: they fit, however they are written. */
  readonly isFound?: boolean;
}

/** Typing rests so long before the server is asked. */
const REST_MS = 120;
/** As much of what stands there is shown as a name. */
const NAME_MOST = 120;
/** Of what stands on the board so many are offered. */
const MOST_HERE = 40;

/** Everything on a board that says something: pictures by their names, notes by how they begin. */
function namedOn(desk: Desk): Named[] {
  const { items } = desk.session;
  return [...items.values()].flatMap((item) => {
    const seen = seenAs(items, item);
    if (!seen) return [];
    const name = wordsOf(item, (picture) => desk.sync.shelf.get(picture)?.name).slice(0, NAME_MOST);
    if (!name) return [];
    const open = () => {
      desk.select([seen.id]);
      desk.view?.showPart(boundsOf(seen));
    };
    return [{ id: item.id, name, open }];
  });
}

/** The same words, once the hand rests. */
function useRested(words: string): string {
  const [rested, setRested] = useState(words);
  useEffect(() => {
    const timer = setTimeout(() => setRested(words), REST_MS);
    return () => clearTimeout(timer);
  }, [words]);
  return rested;
}

/** What all finders find for the words. */
function useFound(registry: Registry, words: string, means: FindingMeans) {
  const asked = useRested(words.trim());
  const answers = useQueries({
    queries: registry.finders.map((finder) => ({
      queryKey: ['find', finder.id, asked],
      queryFn: ({ signal }: { signal: AbortSignal }) => finder.find(asked, means, signal),
      enabled: asked !== '' || finder.isAtRest === true,
      placeholderData: keepPreviousData,
    })),
  });
  return {
    groups: registry.finders.map(
      ({ heading, isAtRest }, index): NamedGroup => ({
        heading,
        entries: (asked === '' || words.trim() === '') && !isAtRest ? [] : (answers[index]?.data ?? []),
        isFound: true,
      }),
    ),
    isWaiting: asked !== words.trim() || answers.some(({ isFetching }) => isFetching),
    trouble: asked === '' ? undefined : answers.find(({ error }) => error)?.error?.message,
  };
}

/** Every command that applies here, under its place. */
function commandsHere(registry: Registry, keymap: Keymap, { places }: FindingMeans): NamedGroup[] {
  const groups = new Map<string, Named[]>();
  for (const command of registry.commands) {
    if (command.isByKeyAlone || command.id === 'palette' || !places.has(command.place)) continue;
    const [press] = keymap.keysOf(command);
    const entry: Named = {
      ...{ id: command.id, name: command.label, also: command.also },
      ...(press === undefined ? {} : { keys: pressWords(press) }),
      open: () => command.run(places),
    };
    groups.set(command.place.words, [...(groups.get(command.place.words) ?? []), entry]);
  }
  return [...groups].map(([heading, entries]) => ({ heading, entries }));
}

/** By which a line is told from all others. */
const lineOf = (heading: string, { id }: Named): string => `${heading} ${id}`;

/** Those that fit what is typed, the best first; all where nothing is. */
function fitting({ heading, entries, isFound }: NamedGroup, words: string): readonly Named[] {
  if (isFound || words.trim() === '') return entries;
  return entries
    .map((entry) => ({ entry, score: scoreOf(entry.name, words, `${entry.also ?? ''} ${heading}`) }))
    .filter(({ score }) => score > 0)
    .sort((one, other) => other.score - one.score)
    .map(({ entry }) => entry);
}

/** Those first in which something is called as was typed: in the others it is found by another word. */
const calledFirst = (groups: readonly NamedGroup[], words: string): readonly NamedGroup[] => {
  const isCalledSo = ({ entries }: NamedGroup) => entries.some(({ name }) => scoreOf(name, words) > 0);
  return [...groups.filter(isCalledSo), ...groups.filter((group) => !isCalledSo(group))];
};

/** Every command, board, picture, subject and written word, by its name. */
export function Palette({
  keymap,
  registry,
  means,
  onClose,
}: {
  keymap: Keymap;
  registry: Registry;
  means: FindingMeans;
  onClose: () => void;
}) {
  const [words, setWords] = useState('');
  const found = useFound(registry, words, means);
  const desk = means.places.get(BOARD);
  // Of five thousand things not at every letter; what another window does meanwhile is found at the next opening.
  const standing = useMemo(() => (desk ? namedOn(desk) : []), [desk]);
  const isAtRest = words.trim() === '';
  const groups: NamedGroup[] = [
    // Where one was last comes before everything that could be done.
    ...(isAtRest ? found.groups : []),
    ...calledFirst(commandsHere(registry, keymap, means), words),
    ...(isAtRest ? [] : [{ heading: 'Standing here', entries: standing }, ...found.groups]),
  ];
  const shown = groups
    .map((group) => ({ ...group, entries: fitting(group, words).slice(0, MOST_HERE) }))
    .filter(({ entries }) => entries.length > 0);
  const open = (entry: Named) => {
    onClose();
    // After the dialog has given the focus back to where it came from.
    setTimeout(() => entry.open());
  };
  // Who types fast presses Enter before the answer is there: it opens what comes.
  const [isEntered, setEntered] = useState(false);
  // Until then what is shown may have been found for fewer letters; who went to a line of it means that line, and so does who
  // sees one lit that is called as was typed.
  const [hasMoved, setMoved] = useState(false);
  const first = shown[0]?.entries[0];
  const list = useRef<HTMLDivElement>(null);
  // Where the line that is lit goes together with others none would be, and Enter would do nothing.
  useLayoutEffect(() => {
    if (list.current?.querySelector('[aria-selected=true]')) return;
    const [line] = list.current?.querySelectorAll('[role=option]') ?? [];
    line?.dispatchEvent(new PointerEvent('pointermove', { bubbles: true }));
  });
  const isLitCalledSo = () => {
    const lit = list.current?.querySelector('[aria-selected=true]')?.getAttribute('data-value');
    return shown.some(({ heading, entries }) =>
      entries.some((entry) => lineOf(heading, entry) === lit && scoreOf(entry.name, words) > 0),
    );
  };
  const isOfBefore = found.isWaiting && !hasMoved && shown.every(({ isFound }) => isFound);
  useEffect(() => {
    if (!isEntered || found.isWaiting) return;
    setEntered(false);
    if (first) open(first);
  });
  return (
    <Sheet onClose={onClose} className="sheet-high w-[min(560px,94vw)]">
      <Dialog.Title className="sr-only">Anything by name</Dialog.Title>
      <List label="Anything by name" loop shouldFilter={false} ref={list}>
        <List.Input
          value={words}
          onValueChange={(next) => {
            setWords(next);
            setEntered(false);
            setMoved(false);
          }}
          onKeyDown={(event) => {
            if (event.key === 'ArrowDown' || event.key === 'ArrowUp') setMoved(true);
            if (event.key !== 'Enter' || !isOfBefore || isLitCalledSo()) return;
            event.preventDefault();
            setEntered(true);
          }}
          maxLength={200}
          placeholder="What do you want to do, or find?"
          className="w-full border-line border-b bg-transparent px-5 py-3.5 font-serif text-[18px] outline-none placeholder:text-muted placeholder:italic"
        />
        <List.List className="max-h-[min(420px,60vh)] overflow-y-auto pb-2">
          {shown.map(({ heading, entries }) => (
            <List.Group key={heading} heading={heading} className="palette-group">
              {entries.map((entry) => (
                <List.Item
                  key={entry.id}
                  value={lineOf(heading, entry)}
                  onSelect={() => open(entry)}
                  className="flex cursor-default items-baseline gap-3 px-5 py-1.5 data-[selected=true]:bg-paper"
                >
                  <span className="min-w-0 flex-1 truncate">{entry.name}</span>
                  {entry.about && (
                    <span className="max-w-[45%] truncate font-serif text-muted italic">{entry.about}</span>
                  )}
                  {entry.keys && <kbd className="key">{entry.keys}</kbd>}
                </List.Item>
              ))}
            </List.Group>
          ))}
          {shown.length === 0 && (
            <p className="px-5 py-6 text-muted italic">
              {found.isWaiting ? 'Looking …' : 'Nothing is called that.'}
            </p>
          )}
          {found.trouble && (
            <p role="alert" className="px-5 py-3 text-[13px] text-muted">
              Only what is open here was looked through: {found.trouble}
            </p>
          )}
        </List.List>
      </List>
    </Sheet>
  );
}

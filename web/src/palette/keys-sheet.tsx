import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import { type Command, canonical, type Keyed, type Keymap, pressOf, pressWords } from '../commands/index.ts';
import { Sheet } from '../shell/index.ts';
import { BY_HAND } from './by-hand.ts';

const matches = (keyed: Keyed, keymap: Keymap, words: string): boolean => {
  const text = [keyed.label, keyed.group, ...keymap.keysOf(keyed).map(pressWords)].join(' ').toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
};

/** What will happen when `press` is given to `keyed`, in words. */
function conflictWords(keymap: Keymap, keyed: Command, press: string): string {
  const others = keymap.conflictsOf(keyed, press).map((other) => `“${other.label}”`);
  return others.length === 0 ? '' : `does ${others.join(' and ')} now, and would no longer`;
}

/** One row while it waits for a key. */
function Recorder({ keymap, keyed, onDone }: { keymap: Keymap; keyed: Command; onDone: () => void }) {
  const [press, setPress] = useState<string>();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (press !== undefined && ['Tab', 'Enter', ' '].includes(event.key)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      if (event.key === 'Escape') return onDone();
      const next = pressOf(event);
      if (next === undefined) return;
      if (keymap.keysOf(keyed).some((key) => canonical(key) === canonical(next))) return onDone();
      if (keymap.conflictsOf(keyed, next).length > 0) setPress(next);
      else void keymap.choose(keyed, next).then(onDone);
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, [keymap, keyed, press, onDone]);
  if (press === undefined) return <span className="text-verdigris">Press a key, or Esc to leave it</span>;
  return (
    <span role="alert" className="flex items-center gap-2">
      <kbd className="key">{pressWords(press)}</kbd>
      <span className="text-vermilion">{conflictWords(keymap, keyed, press)}</span>
      <button
        type="button"
        className="border border-ink bg-ink px-2 py-0.5 text-paper"
        onClick={() => void keymap.choose(keyed, press).then(onDone)}
      >
        Take it
      </button>
      <button type="button" className="border border-line px-2 py-0.5" onClick={onDone}>
        Leave it
      </button>
    </span>
  );
}

function KeyRow({ keymap, keyed }: { keymap: Keymap; keyed: Command }) {
  const [isRecording, setRecording] = useState(false);
  const [stop] = useState(() => () => setRecording(false));
  const keys = keymap.keysOf(keyed);
  return (
    <li className="flex min-h-8 items-center gap-3 border-line border-t" data-command={keyed.id}>
      <span className="min-w-0 flex-1">{keyed.label}</span>
      {isRecording ? (
        <Recorder keymap={keymap} keyed={keyed} onDone={stop} />
      ) : (
        <>
          <span className="flex gap-1">
            {keys.length === 0 && <span className="text-muted">no key</span>}
            {keys.map((press) => (
              <kbd key={press} className="key">
                {pressWords(press)}
              </kbd>
            ))}
          </span>
          {keymap.isChosen(keyed.id) && (
            <button
              type="button"
              className="text-muted underline underline-offset-3"
              onClick={() => void keymap.reset(keyed.id)}
            >
              ours again
            </button>
          )}
          <button
            type="button"
            aria-label={`Change the key of “${keyed.label}”`}
            className="text-muted underline decoration-line underline-offset-3 hover:text-ink"
            onClick={() => setRecording(true)}
          >
            change
          </button>
        </>
      )}
    </li>
  );
}

/** What needs no key. */
function ByHand({ words }: { words: string }) {
  const wanted = words.toLowerCase().split(/\s+/);
  const rows = BY_HAND.filter((row) => wanted.every((word) => row.join(' ').toLowerCase().includes(word)));
  if (rows.length === 0) return null;
  return (
    <section className="break-inside-avoid-column pt-4">
      <h3 className="pb-1 font-serif text-[16px] italic">By hand</h3>
      <ul>
        {rows.map(([what, how]) => (
          <li key={what} className="flex min-h-8 items-center gap-3 border-line border-t">
            <span className="min-w-0 flex-1">{what}</span>
            <span className="text-muted">{how}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Every key, grouped, searchable, changeable. */
export function KeysSheet({ keymap, onClose }: { keymap: Keymap; onClose: () => void }) {
  const [words, setWords] = useState('');
  const { commands } = keymap;
  const groups = [...new Set(commands.map(({ group }) => group))];
  const shown = commands.filter((keyed) => matches(keyed, keymap, words));
  const isOurs = commands.every((keyed) => !keymap.isChosen(keyed.id));
  return (
    <Sheet onClose={onClose} className="flex max-h-[86vh] w-[min(940px,94vw)] flex-col">
      <div className="flex flex-wrap items-baseline gap-4 border-line border-b px-6 pt-5 pb-3">
        <Dialog.Title className="font-serif text-[24px] leading-none">Keys</Dialog.Title>
        <input
          aria-label="Find a key"
          placeholder="Find by name or key"
          className="w-56 border border-line bg-paper px-2 py-1"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <span className="flex-1 text-[13px] text-muted">
          They act on what is selected, else on the picture under the pointer.
        </span>
        {!isOurs && (
          <button
            type="button"
            className="text-[13px] underline underline-offset-3"
            onClick={() => void keymap.reset()}
          >
            All of ours again
          </button>
        )}
        <Dialog.Close className="border border-line px-2.5 py-1 text-[13px]">Close</Dialog.Close>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto px-6 pb-6 text-[13px] sm:columns-2 sm:gap-10">
        {shown.length === 0 && words !== '' && (
          <p className="py-6 text-muted italic">Nothing is called that.</p>
        )}
        <ByHand words={words} />
        {groups.map((group) => {
          const rows = shown.filter((keyed) => keyed.group === group);
          return rows.length === 0 ? null : (
            <section key={group} className="break-inside-avoid-column pt-4">
              <h3 className="pb-1 font-serif text-[16px] italic">{group}</h3>
              <ul>
                {rows.map((keyed) => (
                  <KeyRow key={keyed.id} keymap={keymap} keyed={keyed} />
                ))}
              </ul>
            </section>
          );
        })}
      </div>
    </Sheet>
  );
}

import { useEffect, useRef, useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { isInDialog, isTyping, useWayBack } from '../shell/index.ts';
import { useStore } from '../state/index.ts';

/** Why a picture is here; the words under which it is looked for later. */
const PURPOSES = [
  ...['form', 'viewpoint', 'proportion', 'light', 'colour', 'surface', 'detail', 'pose', 'costume', 'mood'],
  ...['effect', 'method'],
];
const MOST_OFFERED = 4;

/** Enter presses a focused button or follows a link. */
const isOnControl = (event: KeyboardEvent): boolean =>
  (event.target as HTMLElement).closest?.('button, a, [role="dialog"]') != null;

/** The last names given in this window, without their numbers. */
const given: string[] = [];

function suggestions(desk: Desk, typed: string): string[] {
  const { name } = desk.session.board;
  const all = [...given, name, ...PURPOSES.map((purpose) => `${name}, ${purpose}`), ...PURPOSES];
  const start = typed.trim().toLowerCase();
  const fitting = all.filter((one) => one.toLowerCase().includes(start) && one.toLowerCase() !== start);
  return [...new Set(fitting)].slice(0, MOST_OFFERED);
}

/** Right after something came it can be named: Enter or a click goes into the line, letters stay keys until then. */
export function NamingLine({ desk }: { desk: Desk }) {
  const naming = useStore(desk.store, ({ naming }) => naming);
  const [text, setText] = useState('');
  const field = useRef<HTMLInputElement>(null);
  const wayBack = useWayBack();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event) || isInDialog(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === 'Escape') {
        event.stopImmediatePropagation();
        desk.offerNaming([]);
        return;
      }
      if (event.key !== 'Enter' || event.repeat || isOnControl(event)) return;
      event.stopImmediatePropagation();
      event.preventDefault();
      field.current?.focus();
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, [desk]);

  const keep = (name: string) => {
    const title = name.trim();
    if (title !== '') {
      given.unshift(title);
      desk.nameArrived(title);
    } else desk.offerNaming([]);
  };
  const count = naming.length;
  return (
    <>
      <label className="mr-3 flex items-center gap-2 whitespace-nowrap">
        <span className="font-serif text-[15px] italic">{count === 1 ? 'Name it' : `Name the ${count}`}</span>
        <input
          ref={field}
          className="w-56 border-line border-b bg-transparent px-1 py-0.5 font-serif text-[15px] placeholder:text-muted max-md:w-32"
          placeholder="Enter, then type"
          maxLength={200}
          value={text}
          onFocus={(event) => {
            wayBack.onFocus(event);
            desk.holdNaming();
          }}
          onBlur={() => desk.offerNaming(desk.now.naming)}
          onChange={(event) => {
            desk.holdNaming();
            setText(event.target.value);
          }}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' && event.key !== 'Escape') return;
            event.preventDefault();
            // Left before it goes: the keyboard would be nowhere.
            wayBack.leave(event);
            if (event.key === 'Enter') keep(text);
            else desk.offerNaming([]);
          }}
        />
      </label>
      <div className="sill-words flex min-w-0 flex-1 items-center overflow-x-auto">
        {suggestions(desk, text).map((one) => (
          <button
            key={one}
            type="button"
            className="word shrink-0 whitespace-nowrap px-1.5 py-1 font-serif italic hover:bg-raised"
            onPointerDown={(event) => event.preventDefault()}
            onClick={() => keep(one)}
          >
            {one}
          </button>
        ))}
      </div>
    </>
  );
}

import { Popover } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Desk } from '../desk/index.ts';
import { useSync } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { type Aim, aiming } from './keeping/aim.ts';
import { askPlace } from './keeping/ask-place.ts';

/** Asks a person's own places to look for some words, by one word here. */
export function LookElsewhere({
  words,
  aim,
  desk,
  label,
  className,
}: {
  /** What is looked for at first; it can be altered. */
  words: string;
  /** What is taken from there is gathered for. */
  aim?: Aim;
  desk?: Desk;
  label?: string;
  className: string;
}) {
  const sync = useSync();
  const { places = [] } = useStore(sync.settings.store);
  const [text, setText] = useState<string>();
  const asked = (text ?? words).trim();
  const [isOpen, setOpen] = useState(false);
  const look = (place: (typeof places)[number]) => {
    setOpen(false);
    if (aim) aiming.set(aim);
    askPlace(sync, desk, place, asked);
  };
  return (
    <Popover.Root
      open={isOpen}
      onOpenChange={(open) => {
        setOpen(open);
        setText(undefined);
      }}
    >
      <Popover.Trigger className={className} aria-label={label}>
        look elsewhere
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Look elsewhere"
          align="end"
          sideOffset={8}
          collisionPadding={8}
          className="z-40 w-72 max-w-[94vw] border border-line bg-raised p-3 text-[14px] text-ink shadow-[0_8px_28px_rgb(0_0_0/0.18)]"
        >
          <input
            aria-label="What to look for there"
            placeholder="what to look for"
            maxLength={200}
            className="w-full border-ink border-b bg-transparent px-0.5 pb-1 font-serif text-[17px] placeholder:text-muted placeholder:italic"
            value={text ?? words}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && asked !== '' && places[0]) look(places[0]);
            }}
          />
          <ul className="mt-2">
            {places.map((place) => (
              <li key={`${place.name}${place.address}`}>
                <button
                  type="button"
                  disabled={asked === ''}
                  className="flex w-full items-baseline gap-2 py-1 text-left hover:underline disabled:opacity-40 pointer-coarse:min-h-10 pointer-coarse:items-center"
                  onClick={() => look(place)}
                >
                  <span className="min-w-0 flex-1 truncate">{place.name}</span>
                  {place.isTab && <span className="text-[12px] text-muted">in a tab</span>}
                </button>
              </li>
            ))}
          </ul>
          {places.length === 0 && (
            <p className="pt-1 text-[13px] text-muted">
              No place to look is named yet: a site you trust, that can be asked with a word.
            </p>
          )}
          <Link
            to="/settings#places"
            className="mt-1 block text-[13px] text-muted underline underline-offset-3"
          >
            {places.length === 0 ? 'name one in the settings' : 'places to look'}
          </Link>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

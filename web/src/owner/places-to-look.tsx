import type { PlaceToLook } from '@miradero/core/schema';
import { type FormEvent, useEffect, useRef, useState } from 'react';
import { useLocation } from 'react-router';
import { useSync } from '../shell/index.ts';
import { useStore } from '../state/index.ts';

const MOST = 40;

/** Why an address cannot be asked; undefined where it can. */
function wrongWith(address: string): string | undefined {
  if (!/^https?:\/\//.test(address)) return 'An address begins with http:// or https://.';
  if (!address.includes('%s')) return 'Write %s where the word belongs: https://…?q=%s';
  if (/\s/.test(address) || !URL.canParse(address.replaceAll('%s', 'word')))
    return 'This is no address of the web.';
  return undefined;
}

const FIELD =
  'w-full border-line border-b bg-transparent px-0.5 py-1 placeholder:text-muted placeholder:italic';

/** A person's own trusted places, each asked with a word from the library, a gap, or anything by name. */
export function PlacesToLook() {
  const { settings } = useSync();
  const { places = [] } = useStore(settings.store);
  const { hash } = useLocation();
  const section = useRef<HTMLElement>(null);
  const [name, setName] = useState('');
  const [address, setAddress] = useState('');
  const [tag, setTag] = useState('');
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    if (hash === '#places') section.current?.scrollIntoView({ block: 'start' });
  }, [hash]);
  const set = (next: readonly PlaceToLook[]) => void settings.set({ places: [...next] });
  const add = (event: FormEvent) => {
    event.preventDefault();
    const asked = address.trim();
    const wrong =
      wrongWith(asked) ?? (places.length >= MOST ? `${MOST} places are as many as there can be.` : undefined);
    if (wrong) return setTrouble(wrong);
    const known = name.trim() || new URL(asked.replaceAll('%s', 'word')).host;
    set([
      ...places.filter((one) => one.name !== known),
      { name: known, address: asked, ...(tag.trim() ? { tag: tag.trim() } : {}) },
    ]);
    setName('');
    setAddress('');
    setTag('');
    setTrouble('');
  };
  return (
    <section ref={section} className="border-line border-t py-5">
      <h2 className="font-serif text-[20px]">Places to look</h2>
      <p className="mt-1 max-w-lg text-muted">
        Sites you trust, that can be asked with a word: from the library, a blind spot, or anything by name.
        What they show comes as pictures to pick from; what you take gets the tag.
      </p>
      <ul className="mt-3">
        {places.map((place) => (
          <li
            key={`${place.name}${place.address}`}
            className="flex flex-wrap items-baseline gap-x-4 border-line border-t py-1.5"
          >
            <span className="font-serif text-[16px]">{place.name}</span>
            <span
              className="figures min-w-0 max-w-full flex-1 basis-40 truncate text-muted"
              title={place.address}
            >
              {place.address}
            </span>
            {place.tag && <span className="text-[13px] text-muted">tag {place.tag}</span>}
            <button
              type="button"
              aria-pressed={place.isTab === true}
              className="choice text-[13px]"
              title="Some sites show their pictures to a browser alone"
              onClick={() => set(places.map((one) => (one === place ? { ...one, isTab: !one.isTab } : one)))}
            >
              in a tab
            </button>
            <button
              type="button"
              aria-label={`Forget ${place.name}`}
              className="text-[13px] text-muted underline underline-offset-3"
              onClick={() => set(places.filter((one) => one !== place))}
            >
              forget
            </button>
          </li>
        ))}
      </ul>
      <form
        className="mt-2 grid grid-cols-[1fr_2fr_1fr_auto] items-baseline gap-3 max-md:grid-cols-1"
        onSubmit={add}
      >
        <input
          aria-label="Name of a place"
          placeholder="name"
          maxLength={100}
          className={FIELD}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <input
          aria-label="Address of a place, %s for the word"
          aria-invalid={trouble !== ''}
          placeholder="https://…?q=%s"
          maxLength={2_000}
          className={`figures ${FIELD}`}
          value={address}
          onChange={(event) => {
            setAddress(event.target.value);
            setTrouble('');
          }}
        />
        <input
          aria-label="Tag for what comes from there"
          placeholder="tag"
          maxLength={60}
          className={FIELD}
          value={tag}
          onChange={(event) => setTag(event.target.value)}
        />
        <button type="submit" className="justify-self-start border border-line bg-raised px-3 py-1">
          Add
        </button>
      </form>
      {trouble && (
        <p role="alert" className="mt-1 text-[13px] text-vermilion">
          {trouble}
        </p>
      )}
    </section>
  );
}

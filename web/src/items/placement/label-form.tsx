import { applyAffine } from '@miradero/core/geometry';
import { type Placement, pictureToBoard } from '@miradero/core/items';
import { PURPOSES, type Purpose, type PurposeName, type Region } from '@miradero/core/schema';
import { useState } from 'react';
import { ThisOrThat } from '../../shell/index.ts';
import type { StageView } from '../../stage/index.ts';
import { type Readable, useStore } from '../../state/index.ts';

/** So much room the form wants inside the view, CSS pixels. */
const ROOM = { width: 300, height: 110 } as const;
const MOST = 200;

/** Asks for the word of what was marked, below it. */
export function LabelForm({
  view,
  marked,
  placementOf,
  onKeep,
  onLeave,
}: {
  view: StageView;
  marked: Readable<{ readonly region: Region | undefined }>;
  placementOf: () => Placement | undefined;
  onKeep: (said: Omit<Purpose, 'region'>) => void;
  onLeave: () => void;
}) {
  useStore(view.store);
  const { region } = useStore(marked);
  const [word, setWord] = useState('');
  const [purpose, setPurpose] = useState<PurposeName>('detail');
  const [isNot, setNot] = useState(false);
  const placement = placementOf();
  if (!region || !placement) return null;
  const at = applyAffine(pictureToBoard(placement), { x: region.x, y: region.y + region.height });
  const corner = view.seenAt(at);
  const { width, height } = view.holderSize;
  const x = Math.max(8, Math.min(corner.x, width - ROOM.width));
  const y = Math.max(8, Math.min(corner.y + 8, height - ROOM.height));
  return (
    <form
      aria-label="Label of the part"
      className="absolute top-0 left-0 z-10 w-[290px] max-w-[92%] border border-line bg-raised px-3.5 py-3 text-[13px]"
      style={{ transform: `translate(${Math.round(x)}px, ${Math.round(y)}px)` }}
      onSubmit={(event) => {
        event.preventDefault();
        onKeep({ purpose, isNot, ...(word.trim() && { word: word.trim() }) });
        view.focus();
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key !== 'Escape') return;
        onLeave();
        view.focus();
      }}
    >
      <input
        // The form opens because the person marked something.
        // biome-ignore lint/a11y/noAutofocus: see above
        autoFocus
        aria-label="What it is"
        placeholder="a word: rivets like this"
        className="w-full border-ink border-b bg-transparent py-0.5 font-serif text-[16px] placeholder:text-muted"
        maxLength={MOST}
        value={word}
        onChange={(event) => setWord(event.target.value)}
      />
      <div className="mt-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <ThisOrThat isNot={isNot} onChange={setNot} />
        <select
          aria-label="Why it is marked"
          className="border-line border-b bg-raised"
          value={purpose}
          onChange={(event) => setPurpose(event.target.value as PurposeName)}
        >
          {PURPOSES.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
        <button type="submit" className="ml-auto border border-ink bg-ink px-2.5 py-0.5 text-paper">
          Keep
        </button>
      </div>
    </form>
  );
}

import type { Point } from '@miradero/core/geometry';
import { useState } from 'react';
import { WEB_ADDRESS } from '../../shell/index.ts';
import type { StageView } from '../../stage/index.ts';
import { useStore } from '../../state/index.ts';

/** So much room the field wants inside the view, CSS pixels. */
const ROOM = { width: 340, height: 96 } as const;
const MOST = 2_000;

/** An address as it is meant: one without a scheme is of the web. */
const meant = (text: string): string => {
  const line = text.trim();
  return /^[\w-]+(?:\.[\w-]+)+(?:[/?#:].*)?$/.test(line) ? `https://${line}` : line;
};

/** One line for an address, on the stage. */
export function AddressField({
  view,
  at,
  onTake,
  onLeave,
}: {
  view: StageView;
  /** Board units. */
  at: Point;
  onTake: (address: string) => void;
  onLeave: () => void;
}) {
  useStore(view.store);
  const [text, setText] = useState('');
  const [isRefused, setRefused] = useState(false);
  const { width, height } = view.holderSize;
  const corner = view.seenAt(at);
  const x = Math.max(8, Math.min(corner.x, width - ROOM.width));
  const y = Math.max(8, Math.min(corner.y, height - ROOM.height));
  return (
    <div
      className="absolute top-0 left-0 z-10 w-[320px] max-w-[92%] border border-line bg-raised px-3.5 py-3"
      style={{ transform: `translate(${Math.round(x)}px, ${Math.round(y)}px)` }}
    >
      <input
        // The field opens because the person asked for it.
        // biome-ignore lint/a11y/noAutofocus: see above
        autoFocus
        aria-label="Address of the page"
        aria-invalid={isRefused}
        placeholder="address of a page"
        className="figures w-full border-ink border-b bg-transparent py-0.5 text-[13px] placeholder:text-muted"
        maxLength={MOST}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setRefused(false);
        }}
        onBlur={onLeave}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Escape') view.focus();
          if (event.key !== 'Enter') return;
          if (WEB_ADDRESS.isGood(meant(text))) {
            onTake(meant(text));
            view.focus();
          } else setRefused(true);
        }}
      />
      {isRefused && (
        <p role="alert" className="mt-1.5 text-[12px] text-vermilion">
          That is {WEB_ADDRESS.why}.
        </p>
      )}
    </div>
  );
}

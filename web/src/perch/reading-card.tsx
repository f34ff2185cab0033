import type { PaneControls } from './pane-controls.ts';
import { type ColourRead, canReadScreen } from './reading.ts';

const ROOM = { width: 146, height: 30 };
const SCREEN_WORD_PX = 54;

/** What colour was read, beside the point where it was. */
export function ReadingCard({ reading, controls }: { reading: ColourRead; controls: PaneControls }) {
  const { view } = controls;
  const box = view.canvas.parentElement!.getBoundingClientRect();
  const window = view.canvas.ownerDocument.defaultView!;
  const width = ROOM.width + (canReadScreen(window) ? SCREEN_WORD_PX : 0);
  const at = reading.at && view.onPage(reading.at);
  const x = at ? Math.max(4, Math.min(at.x - box.left + 14, box.width - width - 4)) : 6;
  const y = at ? Math.max(4, Math.min(at.y - box.top + 14, box.height - ROOM.height - 4)) : 6;
  return (
    <div
      role="status"
      className="absolute flex items-center gap-2 whitespace-nowrap border border-line bg-raised px-1.5 py-1 text-ink"
      style={{ left: x, top: y }}
    >
      <span aria-hidden className="size-5 shrink-0" style={{ background: reading.hex }} />
      <output className="figures text-[13px]" data-testid="colour">
        {reading.hex}
      </output>
      <span className="text-[12px] text-muted">{reading.isCopied ? 'copied' : ''}</span>
      {canReadScreen(window) && (
        <button type="button" className="text-[12px] underline" onClick={() => void controls.readScreen()}>
          screen
        </button>
      )}
    </div>
  );
}

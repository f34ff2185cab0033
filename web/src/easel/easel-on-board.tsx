import { sheetWords, verdictWords } from '@miradero/core/easel';
import type { SheetItem } from '@miradero/core/items';
import { useState } from 'react';
import { RecentColours } from '../colour/index.ts';
import type { Desk } from '../desk/index.ts';
import { useNarrow } from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import { recall, remember, useStore } from '../state/index.ts';
import { FollowedList } from './following/followed-list.tsx';
import { Guides } from './guides.tsx';
import { useSheetOf } from './sheet-of.ts';
import { SizeSheet } from './size-sheet.tsx';
import { TraceRoom } from './tracing/trace-room.tsx';
import { TraceSheet } from './tracing/trace-sheet.tsx';
import { WholeSheet } from './whole-sheet.tsx';

const WORD = 'underline underline-offset-3';
/** In a view that is narrower the figures alone stand at first, CSS pixels. */
const LEAST_PX = 700;
const FOLDED = 'miradero-easel-corner';

/** The figures of a sheet: its size, its pixels, and whether they are enough. Always there while it is worked on. */
function Figures({ sheet, isLine }: { sheet: SheetItem; isLine: boolean }) {
  const verdict = verdictWords(sheet.setup, sheet.need);
  return (
    <div className="min-w-0 text-[12px] leading-snug">
      <p className="figures">{sheetWords(sheet.setup)}</p>
      <p hidden={isLine} className={verdict.startsWith('enough') ? 'text-muted' : 'text-vermilion'}>
        {verdict}
      </p>
    </div>
  );
}

function Corner({ desk, sheet, view }: { desk: Desk; sheet: SheetItem; view: StageView }) {
  const isNarrow = useNarrow();
  const [isUsuallyFolded, setUsuallyFolded] = useState(
    (recall(FOLDED) ?? (isNarrow || view.viewport.width < LEAST_PX ? 'folded' : 'open')) === 'folded',
  );
  const isDrawing = useStore(desk.store, ({ tool }) => tool?.id === 'draw-here');
  // What one draws by and on is beneath it.
  const [isFoldedToDraw, setFoldedToDraw] = useState(true);
  const isFolded = isDrawing ? isFoldedToDraw : isUsuallyFolded;
  const isLine = isDrawing && isFolded;
  const [isTracing, setTracing] = useState(false);
  const [isSizing, setSizing] = useState(false);
  const fold = () => {
    if (isDrawing) {
      setFoldedToDraw(!isFolded);
      return;
    }
    remember(FOLDED, isFolded ? 'open' : 'folded');
    setUsuallyFolded(!isFolded);
  };
  return (
    <aside
      aria-label="The sheet"
      data-on-board
      // Where there is little room what one draws with stands there.
      className={`${isDrawing ? 'max-md:hidden' : ''} absolute right-3 bottom-3 z-10 flex ${isLine ? 'items-baseline gap-x-3 px-2 py-1' : 'w-[184px] flex-col gap-2 p-2'} border border-line bg-paper max-md:w-auto max-md:max-w-[calc(100%-24px)]`}
      data-desk={desk.session.id}
    >
      {!isFolded && (
        <div className="max-md:hidden">
          <WholeSheet sheet={sheet} view={view} />
        </div>
      )}
      <Figures sheet={sheet} isLine={isLine} />
      <RecentColours desk={desk} className={isFolded ? 'hidden' : ''} />
      {/* Files are followed also while it is folded. */}
      <div className={isFolded ? 'hidden' : ''}>
        <FollowedList desk={desk} />
      </div>
      <p className="flex flex-wrap gap-x-3 text-[12px] text-muted">
        {!isLine && (
          <>
            <button type="button" className={WORD} onClick={() => setSizing(true)}>
              size
            </button>
            <button type="button" className={WORD} onClick={() => desk.toggleGuides()}>
              guides
            </button>
            <button type="button" className={WORD} onClick={() => setTracing(true)}>
              tracing paper
            </button>
          </>
        )}
        <button type="button" aria-expanded={!isFolded} className={WORD} onClick={fold}>
          {isFolded ? 'more' : 'figures alone'}
        </button>
      </p>
      {isTracing && <TraceSheet desk={desk} onClose={() => setTracing(false)} />}
      <TraceRoom desk={desk} />
      {isSizing && <SizeSheet desk={desk} sheet={sheet} onClose={() => setSizing(false)} />}
    </aside>
  );
}

/** What a board of the easel has beside what any board has. */
export function EaselOnBoard({ desk, view }: { desk: Desk; view: StageView }) {
  const sheet = useSheetOf(desk);
  const areGuidesShown = useStore(desk.store, (state) => state.areGuidesShown);
  if (!sheet) return null;
  return (
    <>
      {areGuidesShown && <Guides desk={desk} sheet={sheet} view={view} />}
      <Corner desk={desk} sheet={sheet} view={view} />
    </>
  );
}

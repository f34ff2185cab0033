import { nextStage, stageNow } from '../looking/index.ts';
import { boardOfShows } from '../shell/index.ts';
import type { ArrangementStore } from './arrangement.ts';
import type { PerchInHand } from './commands.ts';
import type { PaneControls } from './pane-controls.ts';
import { popups } from './popups.ts';
import { arrangeAll } from './window-channel.ts';

/** Sizes of the window, one step each. */
const SIZES = [
  { width: 240, height: 120 },
  { width: 240, height: 200 },
  { width: 420, height: 360 },
  { width: 640, height: 480 },
  { width: 900, height: 640 },
] as const;

/** Asks for another size of a window; browsers allow it right after a press in it. */
function resizeBy(window: Window, by: 1 | -1): void {
  const { innerWidth, innerHeight, outerWidth, outerHeight } = window;
  const at = SIZES.findIndex(({ width, height }) => width * height >= innerWidth * innerHeight * 0.98);
  const index = at < 0 ? SIZES.length : at;
  const size = SIZES[Math.min(SIZES.length - 1, Math.max(0, index + by))]!;
  try {
    window.resizeTo(size.width + outerWidth - innerWidth, size.height + outerHeight - innerHeight);
  } catch {
    // Not allowed just now: it stays as large as it is.
  }
}

/** Everything that the commands of one window of the perch do. */
export function inHandOf({
  arrangement,
  controls,
  window,
  openPart,
  closeCard,
  onClose,
}: {
  arrangement: ArrangementStore;
  /** Of the pane in front. */
  controls: PaneControls | undefined;
  window: Window;
  /** Shows the screens, to mark where windows belong. */
  openPart: () => void;
  /** Closes what is laid over the panes. @returns whether there was something */
  closeCard: () => boolean;
  onClose: () => void;
}): { readonly inHand: PerchInHand; readonly another: (isNarrow: boolean) => void } {
  const say = (words: string | undefined) => {
    if (words) controls?.open.desk.say(words);
  };
  const another = (isNarrow: boolean) => void popups.another(arrangement.now, window, isNarrow).then(say);
  const inHand: PerchInHand = {
    pane: controls,
    windows: {
      useScreens: () => void popups.useScreens(window).then(say),
      markPart: openPart,
      arrange: () => arrangeAll(),
    },
    split(side) {
      if (!arrangement.split(arrangement.now.front, side))
        controls?.open.desk.say('Four panes are all that fit.', ['Close one first.']);
    },
    closePane() {
      if (!arrangement.closePane(arrangement.now.front)) onClose();
    },
    nextPane: () => arrangement.step(),
    nextStage(by) {
      const base = controls?.open.base;
      const next = base && (by === 0 ? stageNow(base.session) : nextStage(base.session, by));
      if (next) arrangement.show({ kind: 'stage', board: base.session.id, stage: next.id });
      else controls?.open.desk.say('This board has no working set yet.', ['S takes pictures into one.']);
    },
    toggleHoverLook() {
      const isHoverLook = !arrangement.now.isHoverLook;
      arrangement.set({ isHoverLook });
      controls?.open.desk.say(
        isHoverLook ? 'Rest on a picture and it comes close.' : 'Resting brings nothing close any more.',
      );
    },
    toggleBare: () => arrangement.set({ isBare: !arrangement.now.isBare }),
    toggleEdge: () => arrangement.set({ edge: arrangement.now.edge === 'top' ? 'bottom' : 'top' }),
    resize: (by) => resizeBy(window, by),
    stepBack() {
      if (!closeCard()) controls?.stepBack();
    },
    toBoard() {
      const board = boardOfShows(arrangement.now.panes[arrangement.now.front]!.shows);
      if (board) arrangement.show({ kind: 'board', board });
    },
  };
  return { inHand, another };
}

import { type Desk, holdDesk } from '../desk/index.ts';
import { createStore, type Readable } from '../state/index.ts';
import { openPerch, type PerchWindow } from './perch-window.ts';

/** What the perch of this window shows; it goes on showing it whatever this window turns to. */
interface Shown {
  readonly desk: Desk;
  readonly perch: PerchWindow;
  /** Lets the board be closed again. */
  readonly letGo: () => void;
}

/** What a component shows of it. */
interface InPerch {
  readonly desk: Desk | undefined;
  readonly holder: HTMLElement | undefined;
}

let shown: Shown | undefined;
let isOpening = false;
const store = createStore<InPerch>(() => ({ desk: undefined, holder: undefined }));

function show(next: Shown | undefined): void {
  shown = next;
  store.setState({ desk: next?.desk, holder: next?.perch.holder });
}

async function open(desk: Desk): Promise<void> {
  const { id, board } = desk.session;
  const letGo = holdDesk(desk.sync, id);
  try {
    const perch = await openPerch(id, `${board.name} · perch`, () => {
      // A later one may be open by then.
      if (shown?.perch === perch) {
        shown.letGo();
        show(undefined);
      }
    });
    show({ desk, perch, letGo });
  } catch (error) {
    letGo();
    desk.say('The perch did not open.', [error instanceof Error ? error.message : String(error)]);
  }
}

/** The perch of this window: one, whichever board is in front. */
export const perch = {
  store: store as Readable<InPerch>,
  close(): void {
    shown?.perch.close();
  },
  /** Opens it with this board, or lets it show this board instead of another; closes it where it shows this one. */
  async toggle(desk: Desk): Promise<void> {
    const now = shown && !shown.perch.isClosed() ? shown : undefined;
    if (now?.desk === desk) now.perch.close();
    else if (now?.perch.holder) {
      now.letGo();
      now.perch.rename(`${desk.session.board.name} · perch`);
      show({ ...now, desk, letGo: holdDesk(desk.sync, desk.session.id) });
    } else if (!isOpening) {
      isOpening = true;
      now?.perch.close();
      await open(desk).finally(() => {
        isOpening = false;
      });
    }
  },
};

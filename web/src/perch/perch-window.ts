/** A window that stays above others and shows something of this page. */
export interface PerchWindow {
  /** Where to render; undefined for a popup, which is a page of its own. */
  readonly holder: HTMLElement | undefined;
  /** It may be gone before its own word of that is heard here. */
  isClosed(): boolean;
  rename(title: string): void;
  close(): void;
}

interface PictureInPicture {
  readonly window: Window | null;
  requestWindow(options: { width: number; height: number }): Promise<Window>;
}

const SIZE = { width: 480, height: 360 };

/** Gives a floating window the styles of this page: `<link>` elements cloned, because its policy forbids the rest. */
function dress(floating: Window): () => void {
  const { head, documentElement } = floating.document;
  for (const link of document.head.querySelectorAll('link[rel="stylesheet"]'))
    head.append(link.cloneNode(true));
  const copyTheme = () => {
    documentElement.dataset.theme = document.documentElement.dataset.theme ?? 'paper';
  };
  copyTheme();
  documentElement.lang = 'en';
  const styles = new MutationObserver((records) => {
    for (const node of records.flatMap((record) => [...record.addedNodes])) {
      if (node.nodeName === 'LINK') head.append(node.cloneNode(true));
    }
  });
  styles.observe(document.head, { childList: true });
  const theme = new MutationObserver(copyTheme);
  theme.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
  return () => {
    styles.disconnect();
    theme.disconnect();
  };
}

/**
 * Opens the perch: a floating window that stays above other programs, or a popup where there is none.
 *
 * @param onClosed - called once, however it was closed
 */
export async function openPerch(board: string, title: string, onClosed: () => void): Promise<PerchWindow> {
  const floating = (window as { documentPictureInPicture?: PictureInPicture }).documentPictureInPicture;
  if (!floating) return openPopup(board, onClosed);
  const opened = await floating.requestWindow(SIZE);
  opened.document.title = title;
  const undress = dress(opened);
  const holder = document.createElement('div');
  holder.className = 'perch';
  opened.document.body.append(holder);
  opened.addEventListener('pagehide', () => {
    undress();
    onClosed();
  });
  return {
    holder,
    isClosed: () => opened.closed,
    rename: (to) => {
      opened.document.title = to;
    },
    close: () => opened.close(),
  };
}

function openPopup(board: string, onClosed: () => void): PerchWindow {
  const { width, height } = SIZE;
  const popup = window.open(`/perch/${board}`, `perch-${board}`, `popup,width=${width},height=${height}`);
  if (!popup)
    throw new Error('The browser blocked the perch: allow windows for this address, then press P again.');
  const timer = setInterval(() => {
    if (!popup.closed) return;
    clearInterval(timer);
    onClosed();
  }, 500);
  return {
    holder: undefined,
    isClosed: () => popup.closed,
    rename: () => {},
    close() {
      popup.close();
      clearInterval(timer);
      onClosed();
    },
  };
}

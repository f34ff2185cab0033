/** A window that stays above others and shows something of this page. */
export interface PerchWindow {
  readonly window: Window;
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

export interface WindowSize {
  readonly width: number;
  readonly height: number;
}

const floatingHere = (): PictureInPicture | undefined =>
  (window as { documentPictureInPicture?: PictureInPicture }).documentPictureInPicture;

/** Whether this browser has windows that stay above others. */
export const canFloat = (): boolean => floatingHere() !== undefined;

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
 * Opens a floating window that stays above other programs, or a popup where there is none.
 *
 * @param path - the page of the popup
 * @param onClosed - called once, however it was closed
 */
export async function openPerch(
  path: string,
  title: string,
  size: WindowSize,
  onClosed: () => void,
): Promise<PerchWindow> {
  const floating = floatingHere();
  if (!floating) {
    const popup = openPopup(window, path, 'perch', { ...size, x: undefined, y: undefined });
    if (!popup) throw new Error(BLOCKED);
    return watchPopup(popup, onClosed);
  }
  return openHolder(title, size, onClosed);
}

/**
 * Opens a window into which this page renders: one that floats above other programs, in place of whatever floated, or an
 * empty popup where there is none.
 *
 * @throws Error where the browser blocks it
 */
export async function openHolder(
  title: string,
  size: WindowSize,
  onClosed: () => void,
): Promise<PerchWindow & { readonly holder: HTMLElement }> {
  const floating = floatingHere();
  const opened = floating
    ? await floating.requestWindow(size)
    : openPopup(window, '', 'miradero-over', { ...size, x: undefined, y: undefined });
  if (!opened) throw new Error(BLOCKED);
  opened.document.title = title;
  const undress = dress(opened);
  const holder = document.createElement('div');
  holder.className = 'perch';
  opened.document.body.replaceChildren(holder);
  opened.addEventListener('pagehide', () => {
    undress();
    onClosed();
  });
  return {
    window: opened,
    holder,
    isClosed: () => opened.closed,
    rename: (to) => {
      opened.document.title = to;
    },
    close: () => opened.close(),
  };
}

export const BLOCKED = 'The browser blocked the window: allow windows for this address, then ask again.';

export interface PopupPlace extends WindowSize {
  readonly x: number | undefined;
  readonly y: number | undefined;
}

/**
 * Opens a window that is a page of its own.
 *
 * @param from - the window in which the person asked for it: browsers let that one open another
 * @returns null where the browser blocked it
 */
export function openPopup(
  from: Window,
  path: string,
  name: string,
  { width, height, x, y }: PopupPlace,
): Window | null {
  const at = x === undefined || y === undefined ? '' : `,left=${Math.round(x)},top=${Math.round(y)}`;
  return from.open(path, name, `popup,width=${Math.round(width)},height=${Math.round(height)}${at}`);
}

/** Tells when a popup was closed, by whomever. */
export function watchPopup(popup: Window, onClosed: () => void): PerchWindow {
  const timer = setInterval(() => {
    if (!popup.closed) return;
    clearInterval(timer);
    onClosed();
  }, 500);
  return {
    window: popup,
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

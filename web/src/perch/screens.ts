import type { Rectangle } from '@miradero/core/geometry';
import type { ScreenOfDesktop } from '@miradero/core/perch';

interface ScreenDetailed {
  readonly availLeft: number;
  readonly availTop: number;
  readonly availWidth: number;
  readonly availHeight: number;
  readonly label: string;
  readonly isPrimary: boolean;
}
interface ScreenDetails extends EventTarget {
  readonly screens: readonly ScreenDetailed[];
}
type WithScreens = Window & { readonly getScreenDetails?: () => Promise<ScreenDetails> };

const screenOf = ({
  availLeft,
  availTop,
  availWidth,
  availHeight,
  label,
  isPrimary,
}: ScreenDetailed): ScreenOfDesktop => ({
  ...{ label, isPrimary },
  available: { x: availLeft, y: availTop, width: availWidth, height: availHeight },
});

/** The one screen that a page knows without being allowed more. */
function onlyScreen(window: Window): ScreenOfDesktop[] {
  const { availWidth, availHeight } = window.screen;
  const { availLeft = 0, availTop = 0 } = window.screen as Screen & Partial<ScreenDetailed>;
  const available = { x: availLeft, y: availTop, width: availWidth, height: availHeight };
  return [{ label: '', isPrimary: true, available }];
}

async function isAllowed(): Promise<boolean> {
  try {
    const name = 'window-management' as PermissionName;
    return (await navigator.permissions.query({ name })).state === 'granted';
  } catch {
    return false;
  }
}

/**
 * The screens of this computer as far as the page may know them.
 *
 * @param isAsking - the person asked for it: the browser may ask them
 * @returns undefined where they, or the browser, refused
 */
export async function screensNow(window: Window, isAsking: boolean): Promise<ScreenOfDesktop[] | undefined> {
  const { getScreenDetails } = window as WithScreens;
  if (!getScreenDetails) return isAsking ? undefined : onlyScreen(window);
  if (!isAsking && !(await isAllowed())) return onlyScreen(window);
  try {
    return (await getScreenDetails.call(window)).screens.map(screenOf);
  } catch {
    return isAsking ? undefined : onlyScreen(window);
  }
}

/** Calls back when a screen came or went; never where the page may not know. @returns a function that ends it */
export function onScreens(window: Window, listener: (screens: ScreenOfDesktop[]) => void): () => void {
  let end = () => {};
  let isHere = true;
  void (async () => {
    const { getScreenDetails } = window as WithScreens;
    if (!getScreenDetails || !(await isAllowed())) return;
    const details = await getScreenDetails.call(window).catch(() => undefined);
    if (!details || !isHere) return;
    const tell = () => listener(details.screens.map(screenOf));
    details.addEventListener('screenschange', tell);
    end = () => details.removeEventListener('screenschange', tell);
  })();
  return () => {
    isHere = false;
    end();
  };
}

/** Where a window is, with what its system has around it. */
export const placeOfWindow = (window: Window): Rectangle => ({
  ...{ x: window.screenX, y: window.screenY },
  ...{ width: window.outerWidth, height: window.outerHeight },
});

/** Moves a window that a page opened. Others stay where they are. */
export function moveWindow(window: Window, { x, y, width, height }: Rectangle): void {
  try {
    window.resizeTo(width, height);
    window.moveTo(x, y);
  } catch {
    // Not one of ours to move.
  }
}

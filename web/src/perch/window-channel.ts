import { popups } from './popups.ts';
import { moveWindow } from './screens.ts';

const NAME = 'miradero-perch-windows';

/** Every further window goes to its place in the part that was marked for them. */
export function arrangeAll(): void {
  const channel = new BroadcastChannel(NAME);
  channel.postMessage('arrange');
  channel.close();
  for (const listener of here) listener();
}

/** Those of this window: a channel does not speak to its own. */
const here = new Set<() => void>();

/** Lets a window go where it belongs whenever they are arranged. @returns a function that ends it */
export function followArranging(name: string, window: Window, onNoPart: () => void): () => void {
  const arrange = async () => {
    const places = await popups.arranged(window);
    const place = places?.get(name);
    if (place) moveWindow(window, place);
    else if (!places) onNoPart();
  };
  const channel = new BroadcastChannel(NAME);
  const listener = () => void arrange();
  channel.onmessage = listener;
  here.add(listener);
  return () => {
    here.delete(listener);
    channel.close();
  };
}

const HOST = 'miradero-perch-host';

/** A page that may have opened a perch is there, or there again. */
export function tellHostIsHere(): void {
  const channel = new BroadcastChannel(HOST);
  channel.postMessage('here');
  channel.close();
}

/** Calls back when a page is there, or there again, that may have opened this window. @returns a function that ends it */
export function onHost(listener: () => void): () => void {
  const channel = new BroadcastChannel(HOST);
  channel.onmessage = listener;
  return () => channel.close();
}

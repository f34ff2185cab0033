const BESIDE =
  'Where nothing can be put above it, a second screen or the narrow window beside the work helps.';

/** How a window is kept above others by the system's own means, where this browser has none that float. */
export function onTopWords(platform = navigator.platform): string {
  if (/Linux|X11|BSD/i.test(platform))
    return `This browser has no floating windows. The menu of this window (Alt Space, or a right press on its title) has “always on top”. ${BESIDE}`;
  if (/Mac|iPhone|iPad/i.test(platform))
    return `This browser has no floating windows, and the system has no key to keep one above. ${BESIDE}`;
  if (/Win/i.test(platform))
    return `This browser has no floating windows, and the system keeps none above by itself. ${BESIDE}`;
  return `This browser has no floating windows. ${BESIDE}`;
}

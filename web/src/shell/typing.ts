/** Into these nothing is written: of the keys they take only those that alter them. */
const NOT_WRITTEN = new Set(['range', 'checkbox', 'radio', 'color', 'button', 'submit']);
const ALTERING = /^(?:Arrow\w+|Home|End|PageUp|PageDown|Enter| )$/;

/** Keys belong to whoever is being typed into. */
export function isTyping(event: Event): boolean {
  const target = event.target as HTMLElement;
  const { nodeName, isContentEditable } = target;
  if (nodeName === 'INPUT' && NOT_WRITTEN.has((target as HTMLInputElement).type))
    return !('key' in event) || ALTERING.test((event as KeyboardEvent).key);
  return (
    nodeName === 'INPUT' || nodeName === 'TEXTAREA' || nodeName === 'SELECT' || isContentEditable === true
  );
}

/** Keys belong to a sheet that is open, whatever lies below it. */
export const isInDialog = (event: Event): boolean =>
  (event.target as HTMLElement).closest?.('[role="dialog"]') != null;

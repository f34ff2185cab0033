/** Keys belong to whoever is being typed into. */
export function isTyping(event: Event): boolean {
  const { nodeName, isContentEditable } = event.target as HTMLElement;
  return (
    nodeName === 'INPUT' || nodeName === 'TEXTAREA' || nodeName === 'SELECT' || isContentEditable === true
  );
}

/** Keys belong to a sheet that is open, whatever lies below it. */
export const isInDialog = (event: Event): boolean =>
  (event.target as HTMLElement).closest?.('[role="dialog"]') != null;

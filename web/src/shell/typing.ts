/** Keys belong to whoever is being typed into. */
export function isTyping(event: Event): boolean {
  const { nodeName, isContentEditable } = event.target as HTMLElement;
  return (
    nodeName === 'INPUT' || nodeName === 'TEXTAREA' || nodeName === 'SELECT' || isContentEditable === true
  );
}

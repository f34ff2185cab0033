/** What has the keyboard on a page where nothing else can take it back. */
const HOME = ['[data-front] .stage', '.stage, [data-testid="wall"]'] as const;

const homeOf = (page: Document): HTMLElement | null =>
  page.querySelector<HTMLElement>(HOME[0]) ?? page.querySelector<HTMLElement>(HOME[1]);

/**
 * Gives the keyboard back to what had it before something opened, or to what the page is about; not where what was chosen
 * there has taken it meanwhile, as a line to be written does.
 */
export function giveBackTo(before: Element | null): void {
  const { activeElement, body } = document;
  if (activeElement !== null && activeElement !== body) return;
  const isThere = before instanceof HTMLElement && before.isConnected && before !== body;
  const to = isThere ? before : homeOf(document);
  to?.focus({ preventScroll: true });
}

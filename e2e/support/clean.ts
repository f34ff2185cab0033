import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { faultsOfText } from './layout.ts';

/** What axe calls moderate and a person misses all the same. */
const ALSO = new Set(['page-has-heading-one', 'empty-table-header', 'heading-order']);

export async function troublesOn(
  page: Page,
  within: string | undefined,
  isWhole: boolean,
): Promise<string[]> {
  const axe = new AxeBuilder({ page });
  if (within) axe.include(within);
  // Names and roles do not depend on theme and width; contrast does.
  if (!isWhole) axe.withRules(['color-contrast']);
  const { violations } = await axe.analyze();
  return violations
    .filter(({ id, impact }) => impact === 'serious' || impact === 'critical' || ALSO.has(id))
    .map(({ id, nodes }) => `${id} ${nodes[0]?.html.slice(0, 300)}`);
}

export const WIDE = { width: 1280, height: 800 };
export const TABLET = { width: 820, height: 1100 };
export const PHONE = { width: 390, height: 844 };
const SHOWN = [
  { theme: 'light', size: WIDE },
  { theme: 'dark', size: WIDE },
  { theme: 'dark', size: TABLET },
  { theme: 'light', size: TABLET },
  { theme: 'light', size: PHONE },
  { theme: 'dark', size: PHONE },
] as const;

/**
 * What is open now, in both themes at three widths, switched in place: nothing that axe calls grave, nothing wider than the
 * window, no text over another or cut off. @param within - where a dialog lies over it
 */
export async function expectClean(page: Page, where: string, within?: string): Promise<void> {
  const found: string[] = [];
  for (const [index, { theme, size }] of SHOWN.entries()) {
    await page.setViewportSize(size);
    await page.emulateMedia({ colorScheme: theme, reducedMotion: 'reduce' });
    await page.waitForTimeout(120);
    const words = `${where}, ${theme}, ${size.width}`;
    for (const trouble of await troublesOn(page, within, index === 0)) found.push(`${words}: ${trouble}`);
    const over = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    if (over > 0) found.push(`${words}: ${over} px wider than the window`);
    // What is further down lies there in either theme.
    const isWhole = within === undefined && index % 2 === 0;
    for (const fault of await faultsOfText(page, isWhole)) found.push(`${words}: ${fault}`);
  }
  await page.setViewportSize(WIDE);
  await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
  expect.soft(found, where).toEqual([]);
}

import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { faultsOfText } from './layout.ts';

/** What axe calls moderate and a person misses all the same. */
const ALSO = new Set(['page-has-heading-one', 'empty-table-header', 'heading-order']);

/** @param rules - all of them, or contrast alone: names and roles depend on neither theme nor width */
export async function troublesOn(
  page: Page,
  within: string | undefined,
  rules: 'all' | 'contrast' = 'all',
): Promise<string[]> {
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });
  if (within) axe.include(within);
  if (rules === 'contrast') axe.withRules(['color-contrast']);
  const { violations } = await axe.analyze();
  return violations
    .filter(({ id, impact }) => impact === 'serious' || impact === 'critical' || ALSO.has(id))
    .map(({ id, nodes }) => `${id} ${nodes[0]?.html.slice(0, 300)}`);
}

export const WIDE = { width: 1280, height: 800 };
export const TABLET = { width: 820, height: 1100 };
export const PHONE = { width: 390, height: 844 };

interface Look {
  readonly theme: 'light' | 'dark';
  readonly size: { readonly width: number; readonly height: number };
  /** Names and roles depend on neither theme nor width, where words lie depends on the width alone. */
  readonly rules?: 'all' | 'contrast';
}
const LOOKS: readonly Look[] = [
  { theme: 'light', size: WIDE, rules: 'all' },
  { theme: 'light', size: TABLET },
  { theme: 'dark', size: PHONE, rules: 'contrast' },
];

/**
 * What is open now, in both themes and at three widths, switched in place: nothing that axe calls grave, nothing wider than
 * the window, no text over another or cut off. @param within - where a dialog lies over it
 */
export async function expectClean(page: Page, where: string, within?: string): Promise<void> {
  const found: string[] = [];
  for (const { theme, size, rules } of LOOKS) {
    await page.setViewportSize(size);
    await page.emulateMedia({ colorScheme: theme, reducedMotion: 'reduce' });
    await page.waitForTimeout(120);
    const words = `${where}, ${theme}, ${size.width}`;
    if (rules)
      for (const trouble of await troublesOn(page, within, rules)) found.push(`${words}: ${trouble}`);
    const over = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    if (over > 0) found.push(`${words}: ${over} px wider than the window`);
    for (const fault of await faultsOfText(page, within === undefined)) found.push(`${words}: ${fault}`);
  }
  await page.setViewportSize(WIDE);
  await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
  expect.soft(found, where).toEqual([]);
}

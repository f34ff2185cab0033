import type { Page } from '@playwright/test';
import type { TestBoard } from './board.ts';
import { patchPicture } from './subjects.ts';
import { expect } from './test.ts';

export const PERCH_SIZE = { width: 480, height: 360 };

/** Presses the key of the perch, or another that opens it, and waits until the perch shows something. */
export async function openPerch(page: Page, key = 'p', size = PERCH_SIZE): Promise<Page> {
  const opening = page.context().waitForEvent('page');
  await page.keyboard.press(key);
  const perch = await opening;
  // A context with a fixed viewport would force its size on the floating window.
  await perch.setViewportSize(size);
  await perch.locator('[data-stage="sharp"]').first().waitFor();
  return perch;
}

interface KeptPane {
  readonly shows: { readonly kind: string; readonly items?: readonly string[]; readonly stage?: string };
  readonly camera?: { readonly scale: number };
  readonly lenses: readonly { readonly lens: string }[];
  readonly opacity: number;
  readonly orientation: { readonly degrees: number; readonly isMirrored: boolean };
  readonly surround: number | null;
}

interface KeptArrangement {
  readonly tree: object;
  readonly panes: Readonly<Record<string, KeptPane>>;
  readonly front: string;
  readonly isBare: boolean;
  readonly isHoverLook: boolean;
}

/** What this browser keeps of the perch of a board. */
export const keptArrangement = (page: Page, board: TestBoard): Promise<KeptArrangement> =>
  page.evaluate(
    (key) => JSON.parse(localStorage.getItem(key) ?? 'null') as KeptArrangement,
    `miradero-perch-${board.id}`,
  );

/** Colour of a point of a pane's canvas, CSS pixels of the pane, whatever is laid over it. */
export const colourInPane = (perch: Page, pane: string, x: number, y: number): Promise<number[]> =>
  perch.evaluate(
    ({ pane, x, y }) => {
      const canvas = document.querySelector<HTMLCanvasElement>(`[data-pane="${pane}"] canvas`)!;
      const ratio = canvas.width / canvas.clientWidth;
      const { data } = canvas.getContext('2d')!.getImageData(x * ratio, y * ratio, 1, 1);
      return [...data.slice(0, 3)];
    },
    { pane, x, y },
  );

export const zoomOf = (perch: Page): Promise<string> => perch.getByTestId('zoom').innerText();

/** Counts what would take the keyboard from another program: presses of keys and of the pointer in a window. */
export async function countPresses(perch: Page): Promise<() => Promise<number>> {
  await perch.evaluate(() => {
    const counted = { presses: 0 };
    Object.assign(window, { counted });
    for (const kind of ['keydown', 'pointerdown'])
      window.addEventListener(kind, () => (counted.presses += 1), { capture: true });
  });
  return () => perch.evaluate(() => (window as unknown as { counted: { presses: number } }).counted.presses);
}

/** Taps a key, down and up at once: on a busy machine two messages to the browser may lie as far apart as a hold. */
export const tapKey = (page: Page, key: string, altKey = false): Promise<void> =>
  page.evaluate(
    ({ key, altKey }) => {
      for (const type of ['keydown', 'keyup'])
        window.dispatchEvent(
          new KeyboardEvent(type, { key, code: `Key${key.toUpperCase()}`, altKey, bubbles: true }),
        );
    },
    { key, altKey },
  );

export const isColoured = ([r = 0, g = 0, b = 0]: number[]) => Math.max(r, g, b) - Math.min(r, g, b) > 25;

/** Waits until the perch rests where it is. */
export async function perchRests(perch: Page): Promise<void> {
  await expect(async () => {
    const before = await zoomOf(perch);
    await perch.waitForTimeout(250);
    expect(await zoomOf(perch)).toBe(before);
  }).toPass();
}

/** Says that a part (fractions 0..1) of a picture is a rivet. */
export async function markRivet(
  address: string,
  picture: string,
  side: { at: number; size: number },
): Promise<void> {
  const region = { x: side.at, y: side.at, width: side.size, height: side.size };
  await patchPicture(address, picture, {
    purposes: [{ purpose: 'detail', word: 'rivet', isNot: false, region }],
  });
}

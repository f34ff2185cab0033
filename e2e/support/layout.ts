import type { Page } from '@playwright/test';

/** So often what scrolls is moved on, by most of what is seen of it. */
const STEPS = 3;

/** Scrolls everything that scrolls up and down to a step; whether something was moved. */
const scrollTo = (page: Page, step: number): Promise<boolean> =>
  page.evaluate((at) => {
    let isMoved = false;
    for (const one of document.querySelectorAll<HTMLElement>('body *')) {
      if (one.scrollHeight <= one.clientHeight + 4 || one.clientHeight < 40) continue;
      if (!['auto', 'scroll'].includes(getComputedStyle(one).overflowY)) continue;
      const before = one.scrollTop;
      one.scrollTop = at * 0.8 * one.clientHeight;
      isMoved ||= one.scrollTop !== before;
    }
    return isMoved;
  }, step);

/** @param isWhole - the same further down, too: everything that scrolls is scrolled, and back */
export async function faultsOfText(page: Page, isWhole = false): Promise<string[]> {
  const found = new Set(await faultsInSight(page));
  if (!isWhole) return [...found];
  for (let step = 1; step <= STEPS; step += 1) {
    if (!(await scrollTo(page, step))) break;
    await page.waitForTimeout(60);
    for (const fault of await faultsInSight(page)) found.add(fault);
  }
  await scrollTo(page, 0);
  return [...found];
}

/**
 * Looks at every piece of text that is shown: whether one lies over another, and whether one is cut off (by what holds it or
 * by the edge of the window) where nothing says that there is more. What scrolls up and down may end anywhere.
 *
 * @returns what is wrong, in words; empty where nothing is
 */
function faultsInSight(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    /** Less is the slant of a letter, or rounding. */
    const LEAST_PX = 2;
    interface Piece {
      readonly text: string;
      readonly element: HTMLElement;
      readonly left: number;
      readonly top: number;
      readonly right: number;
      readonly bottom: number;
    }
    const faults: string[] = [];
    const quoted = (text: string) => `“${text.trim().replaceAll(/\s+/g, ' ').slice(0, 40)}”`;
    const isShort = (style: CSSStyleDeclaration) =>
      style.textOverflow === 'ellipsis' || style.webkitLineClamp !== 'none';

    /** What of a piece is seen through everything that clips it; undefined where it is meant to be cut, or is out of sight. */
    const seen = (piece: Piece): Piece | undefined => {
      let { left, top, right, bottom } = piece;
      let isCut = '';
      for (let at: HTMLElement | null = piece.element; at; at = at.parentElement) {
        const style = getComputedStyle(at);
        if (style.visibility === 'hidden' || Number(style.opacity) === 0) return undefined;
        if (style.overflowX !== 'visible' || style.overflowY !== 'visible') {
          if (isShort(style)) isCut ||= 'said';
          const box = at.getBoundingClientRect();
          if (box.width <= 2 || box.height <= 2) return undefined;
          if (box.right < right - LEAST_PX || box.left > left + LEAST_PX)
            isCut ||= `by ${at.nodeName.toLowerCase()}.${at.className.slice(0, 40)}`;
          if (style.overflowY === 'clip' || style.overflowY === 'hidden')
            if (box.bottom < bottom - LEAST_PX && box.bottom > top + LEAST_PX)
              isCut ||= `below by ${at.nodeName.toLowerCase()}`;
          left = Math.max(left, box.left);
          top = Math.max(top, box.top);
          right = Math.min(right, box.right);
          bottom = Math.min(bottom, box.bottom);
        }
        if (style.position === 'fixed') break;
      }
      if (right > window.innerWidth + LEAST_PX || left < -LEAST_PX) isCut ||= 'by the window';
      if (right - left < 1 || bottom - top < 1) return undefined;
      if (top >= window.innerHeight || bottom <= 0 || left >= window.innerWidth || right <= 0)
        return undefined;
      if (isCut && isCut !== 'said') faults.push(`${quoted(piece.text)} is cut off ${isCut}`);
      return { ...piece, left, top, right, bottom };
    };

    const pieces: Piece[] = [];
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const element = node.parentElement!;
      if (!node.textContent?.trim() || ['SCRIPT', 'STYLE', 'OPTION'].includes(element.nodeName)) continue;
      const range = document.createRange();
      range.selectNodeContents(node);
      for (const { left, top, right, bottom, width } of range.getClientRects()) {
        if (width < 1) continue;
        const piece = seen({ text: node.textContent, element, left, top, right, bottom });
        if (piece) pieces.push(piece);
      }
    }
    for (const field of document.querySelectorAll<HTMLInputElement>(
      'input:not([type]), input[type="search"], input[type="text"], textarea',
    )) {
      // What is written on the board lies where the board does.
      if (!(field.value || field.placeholder) || field.dataset.onBoard !== undefined) continue;
      const { left, top, right, bottom } = field.getBoundingClientRect();
      const piece = seen({
        text: field.value || field.placeholder,
        element: field,
        left,
        top,
        right,
        bottom,
      });
      if (piece) pieces.push(piece);
    }

    /** Whether one of two that lie at a point hides the other: between them is something that lets nothing through. */
    const isHidden = (upper: HTMLElement, lower: HTMLElement): boolean => {
      for (let at: HTMLElement | null = upper; at && !at.contains(lower); at = at.parentElement) {
        const { backgroundColor, position } = getComputedStyle(at);
        const alpha = /rgba\(.*,\s*([\d.]+)\)$/.exec(backgroundColor)?.[1];
        if (backgroundColor !== 'transparent' && (alpha === undefined || Number(alpha) > 0.9)) return true;
        if (position === 'fixed') break;
      }
      return false;
    };
    for (const [index, one] of pieces.entries())
      for (const other of pieces.slice(index + 1)) {
        if (
          one.element === other.element ||
          one.element.contains(other.element) ||
          other.element.contains(one.element)
        )
          continue;
        const width = Math.min(one.right, other.right) - Math.max(one.left, other.left);
        const height = Math.min(one.bottom, other.bottom) - Math.max(one.top, other.top);
        // Lines that are set close touch by the leading.
        if (
          width <= LEAST_PX ||
          height <= Math.max(LEAST_PX + 1, 0.3 * Math.min(one.bottom - one.top, other.bottom - other.top))
        )
          continue;
        const at = [
          Math.max(one.left, other.left) + width / 2,
          Math.max(one.top, other.top) + height / 2,
        ] as const;
        const stack = document.elementsFromPoint(...at) as HTMLElement[];
        const place = (piece: Piece) =>
          stack.findIndex((element) => element === piece.element || piece.element.contains(element));
        const [first, second] = [place(one), place(other)];
        if (first < 0 || second < 0) continue;
        const [upper, lower] = first < second ? [one, other] : [other, one];
        if (isHidden(upper.element, lower.element)) continue;
        faults.push(`${quoted(one.text)} lies over ${quoted(other.text)}`);
      }
    return [...new Set(faults)];
  });
}

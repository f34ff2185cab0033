import type { FoundMark } from '@miradero/core/schema';
import { attribute, type Element, elementsOf, type parsePage, textOf } from './page-tree.ts';

type Page = ReturnType<typeof parsePage>;

/** Text of a card longer than this is a page, and says nothing of one picture. */
const MOST_CARD_TEXT = 600;

const PRICE_CLASS = /(?:^|[\s_-])(?:price|cost|buy|basket|checkout)(?:$|[\s_-])/i;
const PRICE_TEXT = /[$€£¥]\s?\d|\d\s?(?:[€£¥]|EUR\b|USD\b|GBP\b|CHF\b)/;
const LICENCE_TEXT = /licen[cs]e (?:is )?(?:required|needed)|rights[- ]managed|licensed use only/i;
const WATERMARK = /watermark|preview only/i;

/** What an element itself says, by its attributes. */
function markOf(element: Element): FoundMark | undefined {
  const classes = attribute(element, 'class') ?? '';
  const property = attribute(element, 'itemprop') ?? '';
  if (property === 'acquireLicensePage') return 'licence';
  if (property === 'price' || PRICE_CLASS.test(classes)) return 'costs';
  if (property === 'isAccessibleForFree' && attribute(element, 'content')?.toLowerCase() === 'false')
    return 'costs';
  const said = [
    classes,
    attribute(element, 'alt'),
    attribute(element, 'src'),
    attribute(element, 'data-src'),
  ];
  return said.some((one) => one && WATERMARK.test(one)) ? 'watermarked' : undefined;
}

/**
 * What a page says of each of its pictures where the picture stands: that it costs something, bears a watermark, or needs a
 * licence. A picture's card is the largest element that holds it and no other picture.
 *
 * @returns by `img` element; such of which nothing is said are left out
 */
export function marksOfPictures(page: Page): Map<Element, FoundMark[]> {
  const images: { readonly element: Element; readonly holders: readonly Element[] }[] = [];
  const count = new Map<Element, number>();
  for (const { element, holders } of elementsOf(page)) {
    if (element.tagName !== 'img') continue;
    images.push({ element, holders });
    for (const holder of holders) count.set(holder, (count.get(holder) ?? 0) + 1);
  }
  const found = new Map<Element, FoundMark[]>();
  for (const { element, holders } of images) {
    const card = holders.find(
      (holder) => count.get(holder) === 1 && !['html', 'body', 'main'].includes(holder.tagName),
    );
    const marks = new Set<FoundMark>();
    const own = markOf(element);
    if (own) marks.add(own);
    if (card) {
      const text = textOf(card);
      const isCard = text.length <= MOST_CARD_TEXT;
      if (isCard && PRICE_TEXT.test(text)) marks.add('costs');
      if (isCard && LICENCE_TEXT.test(text)) marks.add('licence');
      if (isCard && WATERMARK.test(text)) marks.add('watermarked');
      if (isCard)
        for (const { element: inner } of elementsOf(card)) {
          const mark = markOf(inner);
          if (mark) marks.add(mark);
        }
    }
    if (marks.size > 0) found.set(element, [...marks]);
  }
  return found;
}

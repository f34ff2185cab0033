import { type DefaultTreeAdapterTypes, parse } from 'parse5';

type Node = DefaultTreeAdapterTypes.Node;
export type Element = DefaultTreeAdapterTypes.Element;

/** A page as a tree; nothing in it runs, and what stands in `noscript` counts. */
export const parsePage = (html: string) => parse(html, { scriptingEnabled: false });

const isElement = (node: Node): node is Element => 'tagName' in node;

/** Every element below `root`, in the order of the page, each with those that hold it. Not recursive: pages nest deeply. */
export function* elementsOf(root: Node): Generator<{ element: Element; holders: readonly Element[] }> {
  const waiting: { node: Node; holders: readonly Element[] }[] = [{ node: root, holders: [] }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { node, holders } = next;
    if (isElement(node)) yield { element: node, holders };
    const within = isElement(node) ? [...holders.slice(-12), node] : holders;
    const children =
      'content' in node ? node.content.childNodes : 'childNodes' in node ? node.childNodes : [];
    for (const child of [...children].reverse()) waiting.push({ node: child, holders: within });
  }
}

export const attribute = (element: Element, name: string): string | undefined =>
  element.attrs.find((one) => one.name === name)?.value.trim() || undefined;

/** The text in an element, white space as one blank. */
export function textOf(element: Element): string {
  let text = '';
  const waiting: Node[] = [element];
  for (let node = waiting.pop(); node; node = waiting.pop()) {
    if ('value' in node && node.nodeName === '#text') text += node.value;
    if ('childNodes' in node) for (const child of [...node.childNodes].reverse()) waiting.push(child);
  }
  return text.replace(/\s+/g, ' ').trim();
}

/** The address against which those of a page count. Source: HTML, 4.2.3 (the first `base` with an address). */
export function baseOf(page: Node, address: string): string {
  for (const { element } of elementsOf(page)) {
    const href = element.tagName === 'base' ? attribute(element, 'href') : undefined;
    if (href && URL.canParse(href, address)) return new URL(href, address).href;
  }
  return address;
}

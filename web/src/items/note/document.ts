import {
  DEEPEST,
  type ListKind,
  mayLink,
  storableText,
  TEXT_MARKS,
  type Text,
  type TextBlock,
  type TextMark,
  type TextRunOf,
  textOf,
} from '@miradero/core/text';
import type { JSONContent } from '@tiptap/core';

/** Lists and their entries, as the editor's document calls them. */
const LIST_NODES = {
  bullet: ['bulletList', 'listItem'],
  number: ['orderedList', 'listItem'],
  check: ['taskList', 'taskItem'],
} as const satisfies Record<ListKind, readonly [string, string]>;
export const LIST_OF_NODE: ReadonlyMap<string, ListKind> = new Map(
  Object.entries(LIST_NODES).map(([list, [node]]) => [node as string, list as ListKind]),
);

function inlineOf({ text, marks = [], link }: TextRunOf): JSONContent[] {
  const all = [
    ...marks.map((type) => ({ type: type as string })),
    ...(link === undefined ? [] : [{ type: 'link', attrs: { href: link } }]),
  ];
  const marked = all.length > 0 ? { marks: all } : {};
  return text
    .split('\n')
    .flatMap((line, index) => [
      ...(index > 0 ? [{ type: 'hardBreak', ...marked }] : []),
      ...(line === '' ? [] : [{ type: 'text', text: line, ...marked }]),
    ]);
}

const paragraphOf = ({ runs }: TextBlock): JSONContent => ({
  type: 'paragraph',
  ...(runs.length > 0 && { content: runs.flatMap(inlineOf) }),
});

/** Entries from `from` on that stand at least `depth` deep, as lists; where what follows them begins. */
function listsFrom(blocks: readonly TextBlock[], from: number, depth: number): [JSONContent[], number] {
  const lists: JSONContent[] = [];
  let [at, open] = [from, undefined as ListKind | undefined];
  for (let block = blocks[at]; block?.list !== undefined && (block.depth ?? 0) >= depth; block = blocks[at]) {
    const { list } = block;
    const [listType, itemType] = LIST_NODES[list];
    const [inner, next] = listsFrom(blocks, at + 1, depth + 1);
    const item: JSONContent = {
      type: itemType,
      ...(list === 'check' && { attrs: { checked: block.isDone === true } }),
      content: [paragraphOf(block), ...inner],
    };
    if (open === list) lists.at(-1)!.content!.push(item);
    else lists.push({ type: listType, content: [item] });
    open = list;
    at = next;
  }
  return [lists, at];
}

/** A text as the editor's document. */
export function documentOf(blocks: readonly TextBlock[]): JSONContent {
  const content: JSONContent[] = [];
  for (let at = 0; at < blocks.length; ) {
    const block = blocks[at]!;
    if (block.list === undefined) {
      content.push(paragraphOf(block));
      at += 1;
    } else {
      const [lists, next] = listsFrom(blocks, at, 0);
      content.push(...lists);
      at = next;
    }
  }
  return { type: 'doc', content };
}

const isMark = (type: string): type is TextMark => (TEXT_MARKS as readonly string[]).includes(type);

/** What a paragraph of the document says. */
export function runsOf({ content = [] }: JSONContent): TextRunOf[] {
  const runs: TextRunOf[] = [];
  for (const { type, text = '', marks = [] } of content) {
    const words = type === 'hardBreak' ? '\n' : storableText(text);
    if (words === '') continue;
    const named = new Set(marks.map((mark) => mark.type as string));
    const found = TEXT_MARKS.filter((mark) => named.has(mark) && isMark(mark));
    const href = marks.find((mark) => mark.type === 'link')?.attrs?.href as unknown;
    const link = typeof href === 'string' && mayLink(href) ? href : undefined;
    const run: TextRunOf = {
      text: words,
      ...(found.length > 0 && { marks: found }),
      ...(link !== undefined && { link }),
    };
    const last = runs.at(-1);
    // A break has the look of what is before it.
    const isAlike =
      last && (words === '\n' || (last.link === link && `${last.marks ?? ''}` === `${run.marks ?? ''}`));
    if (isAlike) runs[runs.length - 1] = { ...last, text: last.text + words };
    else runs.push(run);
  }
  return runs;
}

function blocksIn(node: JSONContent, depth: number): TextBlock[] {
  const { type = '', content = [] } = node;
  const list = LIST_OF_NODE.get(type);
  if (type === 'paragraph') return [{ runs: runsOf(node) }];
  if (list === undefined) return content.flatMap((one) => blocksIn(one, depth));
  return content.flatMap((item): TextBlock[] => {
    const [own, ...inner] = item.content ?? [];
    return [
      {
        list,
        ...(depth > 0 && { depth: Math.min(depth, DEEPEST) }),
        ...(item.attrs?.checked === true && { isDone: true }),
        runs: own ? runsOf(own) : [],
      },
      ...inner.flatMap((one) => blocksIn(one, depth + 1)),
    ];
  });
}

/** What an editor's document says, as it is kept. */
export const textOfDocument = (document: JSONContent): Text => textOf(blocksIn(document, 0));

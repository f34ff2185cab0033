import { DEEPEST } from '@miradero/core/text';
import { type BlockSetting, blockLineStarts, isRightToLeft } from '@miradero/core/typesetting';
import { type Editor, Extension } from '@tiptap/core';
import { Plugin, PluginKey } from '@tiptap/pm/state';
import { Decoration, DecorationSet } from '@tiptap/pm/view';
import { LIST_OF_NODE, runsOf } from './document.ts';

type Document = Editor['state']['doc'];

/** Paragraphs of a document in their order, each with the position of its first character, and in how many lists it lies. */
function paragraphsOf(document: Document): { node: Document; start: number; lists: number }[] {
  const found: { node: Document; start: number; lists: number }[] = [];
  document.descendants((node, position) => {
    if (node.type.name === 'paragraph') {
      const at = document.resolve(position);
      let lists = 0;
      for (let depth = 1; depth <= at.depth; depth += 1)
        if (LIST_OF_NODE.has(at.node(depth).type.name)) lists += 1;
      found.push({ node: node as Document, start: position + 1, lists });
    }
    return !node.isTextblock;
  });
  return found;
}

/** Where lines of paragraphs begin, as long as those are there: what is not altered stays the same node. */
const remembered = new WeakMap<Document, { readonly key: string; readonly starts: readonly number[] }>();

function startsIn(paragraph: Document, lists: number, setting: BlockSetting): readonly number[] {
  const key = `${lists} ${setting.fontSize} ${setting.width} ${setting.face}`;
  const known = remembered.get(paragraph);
  if (known?.key === key) return known.starts;
  const inList = lists > 0 ? { list: 'bullet' as const, depth: Math.min(lists - 1, DEEPEST) } : {};
  const starts = blockLineStarts({ ...inList, runs: runsOf(paragraph.toJSON()) }, setting);
  remembered.set(paragraph, { key, starts });
  return starts;
}

/** Where the piece of text that an offset of a paragraph lies in ends, as an offset. */
function endOfPiece(paragraph: Document, offset: number): number {
  let end = 0;
  for (let index = 0; index < paragraph.childCount && end <= offset; index += 1)
    end += paragraph.child(index).nodeSize;
  return end;
}

/** The first piece of each line that the layout begins, marked: a style begins a line there. */
export function lineBreaks(document: Document, setting: BlockSetting): DecorationSet {
  const marks = paragraphsOf(document).flatMap(({ node, start, lists }) => {
    const starts = startsIn(node, lists, setting);
    const words = node.textBetween(0, node.content.size, undefined, '\n');
    // As the stage has it, and not as a style would find out.
    const entry = lists > 0 && isRightToLeft(words) ? document.resolve(start - 1) : undefined;
    const turned = entry ? [Decoration.node(entry.before(), entry.after(), { class: 'from-right' })] : [];
    const breaks = starts.flatMap((at, line) => {
      // What a line feed ended has begun a new line already.
      if (line === 0 || words[at - 1] === '\n' || at >= words.length) return [];
      const end = Math.min(starts[line + 1] ?? words.length, endOfPiece(node, at));
      return [Decoration.inline(start + at, start + end, { class: 'begins-line' })];
    });
    return [...turned, ...breaks];
  });
  return DecorationSet.create(document, marks);
}

const KEY = new PluginKey<DecorationSet>('lineBreaks');

/** Breaks the lines of the document that is written where the stage breaks them. */
export const lineBreaksBy = (settingNow: () => BlockSetting) =>
  Extension.create({
    name: 'lineBreaks',
    addProseMirrorPlugins: () => [
      new Plugin<DecorationSet>({
        key: KEY,
        state: {
          init: (_, { doc }) => lineBreaks(doc, settingNow()),
          apply(transaction, marks) {
            if (transaction.getMeta(KEY) || transaction.docChanged)
              return lineBreaks(transaction.doc, settingNow());
            return marks;
          },
        },
        props: { decorations: (state) => KEY.getState(state) },
      }),
    ],
  });

/** Breaks the lines anew: the setting has altered. */
export const breakAnew = (editor: Editor): void => editor.view.dispatch(editor.state.tr.setMeta(KEY, true));

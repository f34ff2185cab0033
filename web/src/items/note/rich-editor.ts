import { blocksOf, lengthOfText, mayLink, TEXT_MOST, type Text } from '@miradero/core/text';
import type { BlockSetting } from '@miradero/core/typesetting';
import { Editor, Extension, getSchema, type JSONContent } from '@tiptap/core';
import { Bold } from '@tiptap/extension-bold';
import { Document } from '@tiptap/extension-document';
import { HardBreak } from '@tiptap/extension-hard-break';
import { Italic } from '@tiptap/extension-italic';
import { Link } from '@tiptap/extension-link';
import { BulletList, ListItem, OrderedList, TaskItem, TaskList } from '@tiptap/extension-list';
import { Paragraph } from '@tiptap/extension-paragraph';
import { Strike } from '@tiptap/extension-strike';
import { Text as TextNode } from '@tiptap/extension-text';
import { Underline } from '@tiptap/extension-underline';
import { UndoRedo } from '@tiptap/extensions';
import { DOMParser as PageParser } from '@tiptap/pm/model';
import { Plugin } from '@tiptap/pm/state';
import { documentOf, textOfDocument } from './document.ts';
import { breakAnew, lineBreaksBy } from './line-breaks.ts';

/** Entries of lists hold one paragraph, and lists below it. */
const ENTRY = { content: 'paragraph (bulletList | orderedList | taskList)*' };

/** Refuses what would make a text longer than it may be; what makes it shorter is always right. */
const limited = (onRefuse: () => void) =>
  Extension.create({
    name: 'limited',
    addProseMirrorPlugins: () => [
      new Plugin({
        filterTransaction(transaction, state) {
          if (!transaction.docChanged || transaction.doc.content.size <= TEXT_MOST / 2) return true;
          if (transaction.doc.content.size <= state.doc.content.size) return true;
          if (lengthOfText(textOfDocument(transaction.doc.toJSON())) <= TEXT_MOST) return true;
          onRefuse();
          return false;
        },
      }),
    ],
  });

/** A link is written in like other words; with Ctrl or Meta it is followed. @returns whether it was a link */
function followed(event: MouseEvent): boolean {
  const link = (event.target as HTMLElement).closest('a');
  if (!link) return false;
  event.preventDefault();
  if (event.ctrlKey || event.metaKey) window.open(link.href, '_blank', 'noopener,noreferrer');
  return true;
}

export interface EditorMeans {
  readonly element: HTMLElement;
  readonly text: Text;
  readonly label: string;
  settingNow(): BlockSetting;
  onText(text: Text): void;
  /** What is marked at the caret, or where it is, has altered. */
  onFormat(): void;
  /** More was put in than a text may hold; nothing was. */
  onTooLong(): void;
}

/** What text may be formatted by. */
const FORMATS = [
  ...[Document, TextNode, HardBreak, Bold, Italic, Underline, Strike],
  Paragraph.configure({ HTMLAttributes: { dir: 'auto' } }),
  ...[BulletList, OrderedList, TaskList, ListItem.extend(ENTRY)],
  TaskItem.extend(ENTRY).configure({ nested: true }),
  Link.extend({ inclusive: false }).configure({
    ...{ openOnClick: false, autolink: true, defaultProtocol: 'https' },
    isAllowedUri: (address) => mayLink(address),
    HTMLAttributes: { rel: 'noopener noreferrer nofollow', target: '_blank' },
  }),
];

/** The text of a piece of a page, with what of its formatting a note has. Nothing of the page is run or fetched. */
function textOfHtml(html: string): Text {
  const { body } = new DOMParser().parseFromString(html, 'text/html');
  const document = PageParser.fromSchema(getSchema(FORMATS)).parse(body);
  return textOfDocument(document.toJSON() as JSONContent);
}

/** An editor of formatted text whose lines break as its setting says. */
export function createEditor(means: EditorMeans): Editor {
  const editor = new Editor({
    element: means.element,
    content: documentOf(blocksOf(means.text)),
    injectCSS: false,
    // Its own focusing waits for a frame, and letters typed meanwhile would go elsewhere.
    autofocus: false,
    enableInputRules: true,
    enablePasteRules: true,
    editorProps: {
      attributes: { 'aria-label': means.label, role: 'textbox', 'aria-multiline': 'true' },
      handleDOMEvents: { click: (_, event) => followed(event) },
    },
    extensions: [...[...FORMATS, UndoRedo], lineBreaksBy(means.settingNow), limited(means.onTooLong)],
    onUpdate: ({ editor }) => means.onText(textOfDocument(editor.getJSON())),
    onSelectionUpdate: means.onFormat,
    onTransaction: means.onFormat,
  });
  editor.commands.setTextSelection(editor.state.doc.content.size);
  editor.view.focus();
  return editor;
}

/** Where the editor is held by those who do not load it. */
export interface RichEditor {
  readonly createEditor: typeof createEditor;
  readonly breakAnew: typeof breakAnew;
  readonly textOfHtml: typeof textOfHtml;
}

export { breakAnew, textOfHtml };

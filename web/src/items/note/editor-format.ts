import type { ListKind, TextMark } from '@miradero/core/text';
import type { Editor } from '@tiptap/core';

/** Ids of the actions that mark text, and what each marks it as. */
export const MARK_OF = {
  bold: 'bold',
  italic: 'italic',
  underlined: 'underline',
  struck: 'strike',
} as const satisfies Record<string, TextMark>;
export const LIST_OF = {
  bullets: 'bullet',
  numbers: 'number',
  checks: 'check',
} as const satisfies Record<string, ListKind>;
/** What the editor calls them. */
export const LIST_NODE = { bullets: 'bulletList', numbers: 'orderedList', checks: 'taskList' } as const;

/** What holds at the caret, as ids of actions. */
export const formatOf = (editor: Editor): string[] => [
  ...Object.entries(MARK_OF).flatMap(([id, mark]) => (editor.isActive(mark) ? [id] : [])),
  ...Object.entries(LIST_NODE).flatMap(([id, node]) => (editor.isActive(node) ? [id] : [])),
  ...(editor.isActive('link') ? ['link-words'] : []),
];

/** Makes what is marked lead somewhere, or nowhere; where nothing is marked the address itself is written. */
export function linkTo(editor: Editor, address: string | undefined): void {
  const chain = editor.chain().focus().extendMarkRange('link');
  if (address === undefined) chain.unsetLink().run();
  else if (!editor.state.selection.empty || editor.isActive('link')) chain.setLink({ href: address }).run();
  else
    editor
      .chain()
      .focus()
      .insertContent({ type: 'text', text: address, marks: [{ type: 'link', attrs: { href: address } }] })
      .run();
}

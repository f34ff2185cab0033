import { isNote, NOTE_ROLES, type Note, type NoteRole, noteWith, ROLE_NAMES } from '@miradero/core/items';
import { asChecks, blocksOf, isListed, isMarked, listedAll, markedAll, type Text } from '@miradero/core/text';
import type { Editor } from '@tiptap/core';
import { type Desk, inGroup, NOTHING_HERE } from '../../desk/index.ts';
import { documentOf } from './document.ts';
import { LIST_NODE, LIST_OF, MARK_OF } from './editor-format.ts';
import type { NoteLook } from './in-writing.ts';
import { Writing } from './writing.ts';

type Marking = keyof typeof MARK_OF;
type Listing = keyof typeof LIST_OF;

export const NOTE_ROLES_OFFERED = ROLE_NAMES.map((role) => `role-${role}`);
export const NOTE_LETTERS_OFFERED = [...Object.keys(MARK_OF), 'link-words'];
export const NOTE_LISTS_OFFERED = Object.keys(LIST_OF);

/** What holds for all of a note, as ids of actions. */
export const formatOfNote = ({ text, role = 'remark' }: Note): string[] => [
  `role-${role}`,
  ...Object.entries(MARK_OF).flatMap(([id, mark]) => (isMarked(text, mark) ? [id] : [])),
  ...Object.entries(LIST_OF).flatMap(([id, list]) => (isListed(text, list) ? [id] : [])),
];

/** What is being written, while something is. */
const writingOf = (desk: Desk): Writing | undefined => (desk.tool instanceof Writing ? desk.tool : undefined);

/** The notes that keys act on; says so where there are none. */
function notesOf(desk: Desk): Note[] {
  const notes = desk.targets.filter(isNote);
  if (notes.length === 0) desk.say('No note is selected.', [NOTHING_HERE]);
  return notes;
}

/** Alters all selected notes in one step. */
function setAll(desk: Desk, notes: readonly Note[], setFor: (note: Note) => Partial<Note>): void {
  if (notes.length > 0)
    desk.session.commit(notes.map((note) => ({ item: note.id, set: noteWith(note, setFor(note)) })));
}

/** How what is written looks, else what is selected. */
export function setLook(desk: Desk, look: NoteLook): void {
  const writing = writingOf(desk);
  if (writing) writing.setLook(desk, look);
  else setAll(desk, notesOf(desk), () => look);
}

function setRole(desk: Desk, role: NoteRole): void {
  const writing = writingOf(desk);
  if (writing) {
    writing.setLook(desk, { role });
    if (role === 'todo' && writing.editor) replaceText(writing.editor, asChecks(writing.text));
  } else
    setAll(desk, notesOf(desk), ({ text }) => ({ role, ...(role === 'todo' && { text: asChecks(text) }) }));
}

const replaceText = (editor: Editor, text: Text): void =>
  void editor
    .chain()
    .setContent(documentOf(blocksOf(text)), { emitUpdate: true })
    .focus('end')
    .run();

function mark(desk: Desk, id: Marking): void {
  const writing = writingOf(desk);
  if (writing) {
    writing.editor?.chain().focus().toggleMark(MARK_OF[id]).run();
    return;
  }
  const notes = notesOf(desk);
  const isOn = !notes.every(({ text }) => isMarked(text, MARK_OF[id]));
  setAll(desk, notes, ({ text }) => ({ text: markedAll(text, MARK_OF[id], isOn) }));
}

function list(desk: Desk, id: Listing): void {
  const { editor } = writingOf(desk) ?? {};
  if (editor) {
    const item = id === 'checks' ? 'taskItem' : 'listItem';
    editor.chain().focus().toggleList(LIST_NODE[id], item).run();
    return;
  }
  if (desk.tool) return;
  const notes = notesOf(desk);
  const isOn = !notes.every(({ text }) => isListed(text, LIST_OF[id]));
  setAll(desk, notes, ({ text }) => ({ text: listedAll(text, isOn ? LIST_OF[id] : undefined) }));
}

/** Asks for an address for what is marked. */
function link(desk: Desk): void {
  const writing = writingOf(desk);
  if (writing?.editor) writing.ask(desk, true);
  else desk.say('Words become a link while they are written.', ['Open the note and mark some.']);
}

const KEYS: Readonly<Record<Marking | Listing, string>> = {
  ...{ bold: '$mod+b', italic: '$mod+i', underlined: '$mod+u', struck: '$mod+Shift+S' },
  ...{ numbers: '$mod+Shift+Digit7', bullets: '$mod+Shift+Digit8', checks: '$mod+Shift+Digit9' },
};
const LIST_WORDS: Readonly<Record<Listing, string>> = {
  bullets: 'list',
  numbers: 'numbered list',
  checks: 'list to check off',
};

export const NOTE_FORMATTING = inGroup('Note', [
  ...ROLE_NAMES.map(
    (role) =>
      [`role-${role}`, NOTE_ROLES[role].words, [] as string[], (desk: Desk) => setRole(desk, role)] as const,
  ),
  ...(Object.keys(MARK_OF) as Marking[]).map(
    (id) => [id, id, KEYS[id], (desk: Desk) => mark(desk, id)] as const,
  ),
  ...(Object.keys(LIST_OF) as Listing[]).map(
    (id) => [id, LIST_WORDS[id], KEYS[id], (desk: Desk) => list(desk, id)] as const,
  ),
  ['link-words', 'link', [], link],
]);

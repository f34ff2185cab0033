import { keysOnTop } from '@miradero/core/board';
import type { Point } from '@miradero/core/geometry';
import {
  createNote,
  NOTE_TYPE,
  type Note,
  type NoteSetting,
  noteHeightFor,
  noteWith,
  scaleOfNote,
} from '@miradero/core/items';
import { plainOf, type Text } from '@miradero/core/text';
import type { Editor } from '@tiptap/core';
import { createElement } from 'react';
import type { Desk, Offer, Tool } from '../../desk/index.ts';
import type { Drag, Press } from '../../stage/index.ts';
import { type Gesture, newGesture } from '../../sync/index.ts';
import { SELECT } from '../../tools/index.ts';
import { NoteEditor } from './editor.tsx';
import type { InWriting, NoteLook } from './in-writing.ts';

/** What is offered while a note is written. */
const OFFERED = ['written-as', 'bold', 'italic', 'link-words', 'checks', 'bullets', 'underlined', 'struck'];

/** Writes a note, one that is there or one that is created with its first letter. */
export class Writing implements Tool, InWriting {
  readonly id = 'write';
  readonly centre: Point;
  readonly width: number;
  readonly scale: number;
  /** One undo takes back all that is written in one stay. */
  readonly gesture: Gesture = newGesture();
  /** While it is here, what formats. */
  editor: Editor | undefined;
  /** An address is asked for what is marked. */
  isLinking = false;
  #note: string | undefined;
  #text: Text;
  #look: NoteLook;
  #on: readonly string[] = [];

  constructor(start: { note?: Note; centre: Point; width: number; scale: number }) {
    this.#note = start.note?.id;
    this.#text = start.note?.text ?? '';
    this.#look = start.note ? {} : { role: 'remark' };
    this.centre = start.centre;
    this.width = start.width;
    this.scale = start.scale;
  }

  /** What is written so far. */
  get text(): Text {
    return this.#text;
  }

  noteOn(desk: Desk): Note | undefined {
    const note = this.#note === undefined ? undefined : desk.session.items.get(this.#note);
    return note?.kind === 'note' ? note : undefined;
  }

  /** How it looks and is set: as it stands, else as it will. */
  settingOn(desk: Desk): NoteSetting & NoteLook {
    return this.noteOn(desk) ?? { ...this.#look, width: this.width, scale: this.scale };
  }

  write(text: Text): void {
    this.#text = text;
  }

  /** Alters how it looks. */
  setLook(desk: Desk, look: NoteLook): void {
    const note = this.noteOn(desk);
    if (note) desk.session.commit([{ item: note.id, set: noteWith(note, look) }], this.gesture);
    else this.#look = { ...this.#look, ...look };
    desk.retell();
  }

  /** Keeps what was written so far. */
  keep(desk: Desk): void {
    const text = this.#text;
    const note = this.noteOn(desk);
    if (note) {
      if (note.text === text) return;
      // Who writes on a note that was removed elsewhere meanwhile keeps it, and what is written.
      const back = note.removed && plainOf(text).trim() !== '' ? { removed: false } : {};
      desk.session.commit([{ item: note.id, set: { ...noteWith(note, { text }), ...back } }], this.gesture);
      return;
    }
    if (plainOf(text).trim() === '') return;
    const { width, scale } = this;
    const height = noteHeightFor(text, { ...this.#look, width, scale });
    const top = this.centre.y - (NOTE_TYPE.minHeight * scale) / 2;
    const create = createNote({
      ...{ id: crypto.randomUUID(), stack: keysOnTop(desk.session.items.values(), 1)[0]! },
      ...{ centre: { x: this.centre.x, y: top + height / 2 }, width, scale, height, text },
      begunAt: new Date().toISOString(),
      ...this.#look,
    });
    this.#note = create.id;
    desk.session.commit([{ create }], this.gesture);
  }

  /** By then another tool may have been taken, which ended this one. */
  end(desk: Desk): void {
    if (desk.tool === this) desk.leaveTool();
  }

  /** Says what is marked at the caret, where that has altered. */
  tellFormat(desk: Desk, on: readonly string[]): void {
    if (`${on}` === `${this.#on}`) return;
    this.#on = on;
    if (desk.tool === this) desk.retell();
  }

  /** Begins or ends asking for an address. */
  ask(desk: Desk, isLinking: boolean): void {
    this.isLinking = isLinking;
    desk.retell();
    if (!isLinking) this.editor?.commands.focus();
  }

  Surface: NonNullable<Tool['Surface']> = (where) => createElement(NoteEditor, { ...where, writing: this });

  press(seat: Parameters<Tool['press']>[0], press: Press): Drag | undefined {
    this.end(seat.desk);
    return SELECT.press(seat, press);
  }
  hover: NonNullable<Tool['hover']> = (...where) => SELECT.hover?.(...where);

  offer(desk: Desk): Offer {
    const { role = 'remark' } = this.settingOn(desk);
    return {
      ...{ title: 'Note', ids: OFFERED, on: [...this.#on, `role-${role}`] },
      hint: 'Esc or a click elsewhere ends writing.',
    };
  }

  /** A note left without a letter goes. */
  leave(desk: Desk): void {
    this.keep(desk);
    const note = this.noteOn(desk);
    if (!note || note.removed) return;
    if (plainOf(note.text).trim() !== '') desk.select([note.id]);
    else desk.session.commit([{ item: note.id, set: { removed: true } }], this.gesture);
  }
}

/** Starts a new note where the pointer is. */
export function startNote(desk: Desk): void {
  const { view } = desk;
  if (!view) return;
  const scale = 1 / view.camera.scale;
  const [width, height] = [NOTE_TYPE.width * scale, NOTE_TYPE.minHeight * scale];
  // Its corner is where the hand points; where no hand is, it stands in the middle.
  const { pointer } = desk;
  const centre = pointer ? { x: pointer.x + width / 2, y: pointer.y + height / 2 } : view.camera.centre;
  desk.take(new Writing({ centre, width, scale }), []);
}

export const edit = (desk: Desk, note: Note): void =>
  desk.take(new Writing({ note, centre: note.centre, width: note.width, scale: scaleOfNote(note) }), [
    note.id,
  ]);

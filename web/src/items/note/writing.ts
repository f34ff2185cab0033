import { keysOnTop } from '@miradero/core/board';
import { addPoints, type Point, turnPoint } from '@miradero/core/geometry';
import { createNote, NOTE_TYPE, type Note, noteHeightFor } from '@miradero/core/items';
import { createElement } from 'react';
import type { Desk, Tool } from '../../desk/index.ts';
import { type Gesture, newGesture } from '../../sync/index.ts';
import { SELECT } from '../../tools/index.ts';
import { type InWriting, NoteEditor } from './editor.tsx';

/** Writes a note, one that is there or one that is created with its first letter. */
export class Writing implements Tool, InWriting {
  readonly id = 'write';
  readonly centre: Point;
  readonly width: number;
  /** One undo takes back all that is written in one stay. */
  readonly #gesture: Gesture = newGesture();
  #note: string | undefined;
  #text: string;

  constructor(start: { note?: Note; centre: Point; width: number }) {
    this.#note = start.note?.id;
    this.#text = start.note?.text ?? '';
    this.centre = start.centre;
    this.width = start.width;
  }

  /** What is written so far. */
  get text(): string {
    return this.#text;
  }

  noteOn(desk: Desk): Note | undefined {
    const note = this.#note === undefined ? undefined : desk.session.items.get(this.#note);
    return note?.kind === 'note' ? note : undefined;
  }

  write(text: string): void {
    this.#text = text;
  }

  /** Keeps what was written so far. */
  keep(desk: Desk): void {
    const text = this.#text;
    const height = noteHeightFor(text, this.width);
    const note = this.noteOn(desk);
    if (note) {
      if (note.text === text) return;
      // The upper edge stays where it is, also of a turned note.
      const grown = turnPoint({ x: 0, y: (height - note.height) / 2 }, note.turn);
      const set = { text, height, centre: addPoints(note.centre, grown) };
      desk.session.commit([{ item: note.id, set }], this.#gesture);
      return;
    }
    if (text.trim() === '') return;
    const top = this.centre.y - (NOTE_TYPE.minHeight * this.width) / NOTE_TYPE.width / 2;
    const create = createNote({
      ...{ id: crypto.randomUUID(), stack: keysOnTop(desk.session.items.values(), 1)[0]! },
      ...{ centre: { x: this.centre.x, y: top + height / 2 }, width: this.width, height, text },
    });
    this.#note = create.id;
    desk.session.commit([{ create }], this.#gesture);
  }

  /** By then another tool may have been taken, which ended this one. */
  end(desk: Desk): void {
    if (desk.tool === this) desk.leaveTool();
  }

  Surface: NonNullable<Tool['Surface']> = (where) => createElement(NoteEditor, { ...where, writing: this });

  press: Tool['press'] = SELECT.press;
  hover: NonNullable<Tool['hover']> = (...where) => SELECT.hover?.(...where);

  offer = () => ({ title: 'Note', ids: [], hint: 'Esc or a click elsewhere ends writing.' });

  /** A note left without a letter goes. */
  leave(desk: Desk): void {
    this.keep(desk);
    const note = this.noteOn(desk);
    if (!note || note.removed) return;
    if (note.text.trim() !== '') desk.select([note.id]);
    else desk.session.commit([{ item: note.id, set: { removed: true } }], this.#gesture);
  }
}

/** Starts a new note where the pointer is. */
export function startNote(desk: Desk): void {
  const { view } = desk;
  if (!view) return;
  const width = NOTE_TYPE.width / view.camera.scale;
  const corner = desk.pointer ?? view.camera.centre;
  const height = (NOTE_TYPE.minHeight * width) / NOTE_TYPE.width;
  desk.take(new Writing({ centre: { x: corner.x + width / 2, y: corner.y + height / 2 }, width }), []);
}

export const edit = (desk: Desk, note: Note): void =>
  desk.take(new Writing({ note, centre: note.centre, width: note.width }), [note.id]);

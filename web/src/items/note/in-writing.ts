import type { Point } from '@miradero/core/geometry';
import type { Note, NoteSetting } from '@miradero/core/items';
import type { Text } from '@miradero/core/text';
import type { Editor } from '@tiptap/core';
import type { Desk } from '../../desk/index.ts';

/** How a note looks beside what it says. */
export type NoteLook = Partial<Pick<Note, 'role' | 'ink' | 'paper'>>;

/** A note in the making, as the one who writes it has it. */
export interface InWriting {
  /** What is written so far. */
  readonly text: Text;
  /** Where it was begun. */
  readonly centre: Point;
  /** While it is here, what formats. */
  editor: Editor | undefined;
  /** An address is asked for what is marked. */
  readonly isLinking: boolean;
  noteOn(desk: Desk): Note | undefined;
  /** How it looks and is set: as it stands, else as it will. */
  settingOn(desk: Desk): NoteSetting & NoteLook;
  write(text: Text): void;
  /** Keeps what was written so far. */
  keep(desk: Desk): void;
  end(desk: Desk): void;
  /** Says what is marked at the caret, where that has altered. */
  tellFormat(desk: Desk, on: readonly string[]): void;
  /** Begins or ends asking for an address. */
  ask(desk: Desk, isLinking: boolean): void;
}

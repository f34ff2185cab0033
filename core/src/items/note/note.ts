import type { FromSchema } from 'json-schema-to-ts';
import type { Point } from '../../geometry/index.ts';
import { layOut, type SetText } from '../../typesetting/index.ts';
import { commonNames, commonProperties, itemIdSchema, lengthSchema, UPRIGHT } from '../item.ts';
import type { KindOfItem } from '../kind.ts';
import { rectanglePath } from '../primitives.ts';

/** Type of a note, board units at the width at which notes are begun: text that reads well at arm's length. */
export const NOTE_TYPE = { fontSize: 16, lineHeight: 23, padding: 14, width: 240, minHeight: 51 } as const;
/** Characters of a note. */
export const NOTE_MOST = 20_000;

export const PAPER = '#fafaf9';
export const INK = '#1d1d1b';

/** Plain text on a board. Its text is one property: of two windows that edit it at once, the later one wins. */
export const noteSchema = {
  $id: 'note',
  type: 'object',
  properties: {
    id: itemIdSchema,
    kind: { const: 'note' },
    ...commonProperties,
    height: lengthSchema,
    text: { type: 'string', format: 'text', maxLength: NOTE_MOST },
  },
  required: [...commonNames, 'height', 'text'],
  additionalProperties: false,
} as const;

export type Note = FromSchema<typeof noteSchema>;

const setNote = (text: string): SetText =>
  layOut(text, {
    fontSize: NOTE_TYPE.fontSize,
    lineHeight: NOTE_TYPE.lineHeight,
    width: NOTE_TYPE.width - 2 * NOTE_TYPE.padding,
  });

/** Height of a note of the given width that holds all of its text, board units. */
export function noteHeightFor(text: string, width: number): number {
  const height = Math.max(NOTE_TYPE.minHeight, 2 * NOTE_TYPE.padding + setNote(text).height);
  return (height * width) / NOTE_TYPE.width;
}

export const noteKind: KindOfItem<Note> = {
  schema: noteSchema,
  title: 'Note',
  heightOf: ({ height }) => height,
  /** A note scales as a picture does: its type grows with it. */
  sized: ({ height }, factor) => ({ height: height * factor }),
  picturesOf: () => [],
  wordsOf: ({ text }) => text,
  primitivesOf({ width, height, text }) {
    const scale = width / NOTE_TYPE.width;
    const padding = NOTE_TYPE.padding * scale;
    const paper = { x: 0, y: 0, width, height };
    return [
      { kind: 'path', d: rectanglePath(paper), fill: PAPER },
      {
        kind: 'text',
        text: setNote(text),
        at: { x: padding, y: padding },
        scale,
        colour: INK,
        clip: paper,
      },
    ];
  },
};

type NoteStart = Pick<Note, 'id' | 'stack' | 'width' | 'height' | 'text'> & {
  readonly centre: Point;
} & Partial<Note>;

export const createNote = (start: NoteStart): Note => ({ kind: 'note', ...UPRIGHT, ...start });

import type { FromSchema } from 'json-schema-to-ts';
import { addPoints, type Point, type Rectangle, turnPoint } from '../../geometry/index.ts';
import { blocksOf, plainOf, TEXT_MOST, type Text, textSchema } from '../../text/index.ts';
import {
  type BlockSetting,
  type Face,
  layOut,
  layOutBlocks,
  placedSpans,
  type SetText,
} from '../../typesetting/index.ts';
import { commonNames, commonProperties, itemIdSchema, lengthSchema, UPRIGHT } from '../item.ts';
import type { KindOfItem } from '../kind.ts';
import { type Path, type Primitive, rectanglePath } from '../primitives.ts';
import { INK_NAMES, inkColour, PAPER_NAMES, paperColour } from './inks.ts';

/** What a note is for, and how it is set for that; sizes in units of its type. */
export const NOTE_ROLES = {
  title: { words: 'title', fontSize: 28, lineHeight: 36, face: 'bold' },
  remark: { words: 'remark', fontSize: 16, lineHeight: 23, face: 'roman' },
  question: { words: 'question', fontSize: 18, lineHeight: 26, face: 'italic' },
  todo: { words: 'to do', fontSize: 16, lineHeight: 23, face: 'roman' },
} as const satisfies Record<
  string,
  { readonly words: string; readonly fontSize: number; readonly lineHeight: number; readonly face: Face }
>;
export type NoteRole = keyof typeof NOTE_ROLES;
export const ROLE_NAMES = Object.keys(NOTE_ROLES) as NoteRole[];

/** A note as it is begun, units of its type: text that reads well at arm's length. */
export const NOTE_TYPE = { ...NOTE_ROLES.remark, padding: 14, width: 240, minHeight: 51 } as const;
/** Characters of a note. */
export const NOTE_MOST = TEXT_MOST;
/** How wide its words may run, units of its type. */
export const NOTE_WIDTHS = { least: 60, most: 4_000 } as const;
/** The bar beside a question, units of its type. */
const BAR = 3;

/**
 * Text on a board, plain or formatted. It is one property: of two windows that edit it at once, the later one wins. `width` is how
 * wide it is on the board, `scale` how large its type: its words wrap at the one divided by the other.
 */
export const noteSchema = {
  $id: 'note',
  type: 'object',
  properties: {
    id: itemIdSchema,
    kind: { const: 'note' },
    ...commonProperties,
    height: lengthSchema,
    text: textSchema,
    /** A remark where this is missing. */
    role: { enum: ROLE_NAMES },
    /** Board units of one unit of its type. Where this is missing, words wrap at the width at which notes are begun. */
    scale: { type: ['number', 'null'], minimum: 1e-4, maximum: 1e6 },
    /** By the paper where this is missing. */
    ink: { enum: [...INK_NAMES, null] },
    /** The lightest where this is missing. */
    paper: { enum: [...PAPER_NAMES, null] },
    /** When it was begun; nobody knows of notes from before this was kept. */
    begunAt: { type: 'string', format: 'date-time', maxLength: 40 },
  },
  required: [...commonNames, 'height', 'text'],
  additionalProperties: false,
} as const;

export type Note = FromSchema<typeof noteSchema>;
export const isNote = (item: { readonly kind: string }): item is Note => item.kind === 'note';

/** What decides how a note is set. */
export type NoteSetting = Pick<Note, 'width' | 'role' | 'scale'>;

/** Board units of one unit of its type. */
export const scaleOfNote = ({ scale, width }: NoteSetting): number => scale ?? width / NOTE_TYPE.width;

/** How wide its words and the space around them are, units of its type; sums of sizing leave no trace in it. */
const typeWidth = (note: NoteSetting): number =>
  note.scale == null ? NOTE_TYPE.width : Math.round((note.width / note.scale) * 1e3) / 1e3;

/** How the words of a note are set. */
export function settingOfNote(note: NoteSetting): BlockSetting {
  const { fontSize, lineHeight, face } = NOTE_ROLES[note.role ?? 'remark'];
  return { fontSize, lineHeight, face, width: Math.max(fontSize, typeWidth(note) - 2 * NOTE_TYPE.padding) };
}

/** Formatted texts whose lines are remembered, as long as they are there; plain ones in another face, some of them. */
const remembered = new WeakMap<object, { readonly key: string; readonly set: SetText }>();
const rememberedPlain = new Map<string, SetText>();
const MOST_REMEMBERED = 500;

/** Plain text in a face of its own. */
function setPlain(text: string, setting: BlockSetting): SetText {
  const key = `${setting.face} ${setting.fontSize} ${setting.width} ${text}`;
  const known = rememberedPlain.get(key);
  if (known) return known;
  const set = layOutBlocks(blocksOf(text), setting);
  if (rememberedPlain.size >= MOST_REMEMBERED) rememberedPlain.delete(rememberedPlain.keys().next().value!);
  rememberedPlain.set(key, set);
  return set;
}

/** The lines of a note, units of its type. */
export function setNote(text: Text, note: NoteSetting): SetText {
  const setting = settingOfNote(note);
  const { face, ...plain } = setting;
  if (typeof text === 'string') return face === 'roman' ? layOut(text, plain) : setPlain(text, setting);
  const key = `${face} ${setting.fontSize} ${setting.width}`;
  const known = remembered.get(text);
  if (known?.key === key) return known.set;
  const set = layOutBlocks(text.blocks, setting);
  remembered.set(text, { key, set });
  return set;
}

/** Height of a note that holds all of its text, board units. */
export function noteHeightFor(text: Text, note: NoteSetting): number {
  const least = NOTE_ROLES[note.role ?? 'remark'].lineHeight + 2 * NOTE_TYPE.padding;
  return Math.max(least, setNote(text, note).height + 2 * NOTE_TYPE.padding) * scaleOfNote(note);
}

/** Values that a note has once it is set anew with others: as high as its words, its upper edge where it was, also of a turned one. */
export function noteWith(note: Note, set: Partial<Note>): Partial<Note> {
  const now = { ...note, ...set };
  const height = noteHeightFor(now.text, now);
  const grown = turnPoint({ x: 0, y: (height - note.height) / 2 }, note.turn);
  return { ...set, height, centre: addPoints(note.centre, grown) };
}

/** The box of an entry to be checked off, units of the set text. */
function boxOf({ fontSize, width }: SetText, line: SetText['lines'][number]): Rectangle {
  const side = Math.round(fontSize * 0.72);
  const indent = line.indent ?? 0;
  const before = indent - side - fontSize * 0.45;
  return {
    x: line.isRightToLeft ? width - before - side : before,
    y: line.baseline - side,
    width: side,
    height: side,
  };
}

/** A box, ticked where it is done. */
function boxPaths(box: Rectangle, isDone: boolean, colour: string, toFrame: (at: Point) => Point): Path[] {
  const line = box.width / 10;
  const unit = toFrame({ x: 1, y: 0 }).x - toFrame({ x: 0, y: 0 }).x;
  const path = (points: readonly (readonly [number, number])[]) =>
    points.map(([x, y]) => {
      const at = toFrame({ x: box.x + x * box.width, y: box.y + y * box.height });
      return `${at.x} ${at.y}`;
    });
  const stroke = { colour, width: line * unit };
  const corners = path([
    [0.05, 0.05],
    [0.95, 0.05],
    [0.95, 0.95],
    [0.05, 0.95],
  ]);
  const tick = path([
    [0.22, 0.5],
    [0.43, 0.74],
    [0.8, 0.2],
  ]);
  return [
    { kind: 'path', d: `M${corners.join('L')}Z`, stroke },
    ...(isDone
      ? [{ kind: 'path', d: `M${tick.join('L')}`, stroke: { colour, width: 1.6 * line * unit } } as const]
      : []),
  ];
}

/** What painters draw of one. */
export function notePrimitives(note: Note): Primitive[] {
  const { width, height, text, role, ink, paper } = note;
  const scale = scaleOfNote(note);
  const padding = NOTE_TYPE.padding * scale;
  const all = { x: 0, y: 0, width, height };
  const fill = paperColour(paper);
  const colour = inkColour(ink, paper);
  const set = setNote(text, note);
  const toFrame = ({ x, y }: Point): Point => ({ x: padding + x * scale, y: padding + y * scale });
  const boxes = set.lines.flatMap((line) =>
    line.isDone === undefined ? [] : boxPaths(boxOf(set, line), line.isDone, colour, toFrame),
  );
  return [
    ...(fill ? [{ kind: 'path', d: rectanglePath(all), fill } as const] : []),
    ...(role === 'question'
      ? [
          {
            kind: 'path',
            d: rectanglePath({ ...all, width: Math.min(width, BAR * scale) }),
            fill: colour,
          } as const,
        ]
      : []),
    { kind: 'text', text: set, at: { x: padding, y: padding }, scale, colour, clip: all },
    ...boxes,
  ];
}

export const noteKind: KindOfItem<Note> = {
  schema: noteSchema,
  title: 'Note',
  heightOf: ({ height }) => height,
  /** A note scales as a picture does: its type grows with it. */
  sized: ({ height, scale }, factor) => ({
    height: height * factor,
    ...(scale != null && { scale: scale * factor }),
  }),
  wrapped(note, wanted) {
    const scale = scaleOfNote(note);
    const width = Math.min(NOTE_WIDTHS.most, Math.max(NOTE_WIDTHS.least, wanted / scale)) * scale;
    return { width, scale, height: noteHeightFor(note.text, { ...note, width, scale }) };
  },
  picturesOf: () => [],
  wordsOf: ({ text }) => plainOf(text),
};

/** What lies at a point of a note that can be pressed: a link, or the block of an entry to be checked off. */
export type PressedOfNote =
  | { readonly link: string }
  | { readonly check: number; readonly isDone: boolean }
  | undefined;

/** @param at - own frame, board units @param slack - how far beside a box it still counts, board units */
export function pressedOfNote(note: Note, at: Point, slack = 0): PressedOfNote {
  if (typeof note.text === 'string') return undefined;
  const scale = scaleOfNote(note);
  const set = setNote(note.text, note);
  const [x, y] = [at.x / scale - NOTE_TYPE.padding, at.y / scale - NOTE_TYPE.padding];
  const reach = slack / scale;
  const line = set.lines[Math.floor(y / set.lineHeight)];
  if (!line || y > note.height / scale) return undefined;
  if (line.isDone !== undefined) {
    const box = boxOf(set, line);
    if (x >= box.x - reach && x <= box.x + box.width + reach)
      return { check: line.block ?? 0, isDone: line.isDone };
  }
  const span = placedSpans(set, line).find((one) => x >= one.x && x <= one.x + one.width);
  return span?.link === undefined ? undefined : { link: span.link };
}

type NoteStart = Pick<Note, 'id' | 'stack' | 'width' | 'height' | 'text'> & {
  readonly centre: Point;
} & Partial<Note>;

export const createNote = (start: NoteStart): Note => ({ kind: 'note', ...UPRIGHT, ...start });

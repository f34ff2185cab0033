import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { wrapTo } from '../../board/index.ts';
import { applyAffine } from '../../geometry/index.ts';
import { asChecks } from '../../text/index.ts';
import { richText } from '../../text/test/arbitrary.ts';
import { layOut } from '../../typesetting/index.ts';
import { drawnOf, type Note } from '../index.ts';
import {
  contrastOfHex,
  createNote,
  INK_NAMES,
  inkColour,
  noteHeightFor,
  noteKind,
  PAPER_NAMES,
  paperColour,
  pressedOfNote,
  ROLE_NAMES,
  setNote,
} from './index.ts';

const note = (more: Partial<Note>): Note => {
  const whole = createNote({
    ...{ id: 'n', stack: 'a0', centre: { x: 0, y: 0 }, width: 240, height: 51, text: '' },
    ...more,
  });
  return { ...whole, height: noteHeightFor(whole.text, whole) };
};
const linesOf = (one: Note) => setNote(one.text, one).lines.map(({ text }) => text);

describe('a note', () => {
  it('from before there were roles and scales breaks and is drawn as it was, at any width', () => {
    fc.assert(
      fc.property(
        fc.string({ maxLength: 300 }),
        fc.double({ min: 1, max: 9e5, noNaN: true }),
        (text, width) => {
          const old = note({ text, width });
          const set = layOut(text, { fontSize: 16, lineHeight: 23, width: 212 });
          const scale = width / 240;
          expect(old.height).toBeCloseTo(Math.max(51, 28 + set.height) * scale, 4);
          const at = { x: 14 * scale, y: 14 * scale };
          expect(drawnOf(old).primitives).toEqual([
            { kind: 'path', d: `M0 0h${width}v${old.height}h${-width}Z`, fill: '#fafaf9' },
            ...[{ kind: 'text', text: set, at, scale, colour: '#1d1d1b' }].map((run) => ({
              ...run,
              clip: { x: 0, y: 0, width, height: old.height },
            })),
          ]);
        },
      ),
    );
  });

  it('wraps at its width by its scale: sized, its lines stay; drawn wider, its type does', () => {
    const text = 'The glass is the lightest thing on page seven, and the wet rope the darkest.';
    fc.assert(
      fc.property(
        fc.oneof(fc.constant(text), richText),
        fc.constantFrom(...ROLE_NAMES),
        fc.double({ min: 0.05, max: 40, noNaN: true }),
        fc.integer({ min: 60, max: 900 }),
        (said, role, factor, width) => {
          const one = note({ text: said, role, scale: 1.5, width: 360 });
          const sized = { ...one, width: one.width * factor, ...noteKind.sized!(one, factor) };
          expect(linesOf(sized)).toEqual(linesOf(one));
          expect(noteHeightFor(sized.text, sized)).toBeCloseTo(sized.height, 6);
          const wrapped = { ...one, ...noteKind.wrapped!(one, width * 1.5) };
          expect(wrapped.scale).toBe(1.5);
          expect(wrapped.width).toBeCloseTo(width * 1.5, 9);
          expect(wrapped.height).toBe(noteHeightFor(said, wrapped));
        },
      ),
    );
  });

  it('is drawn wider by a side: the other one stays, and its upper edge, however it is turned', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -179, max: 180 }),
        fc.constantFrom(1 as const, -1 as const),
        fc.integer({ min: 60, max: 900 }),
        (turn, side, width) => {
          const one = note({ text: 'The glass is the lightest thing on page seven.', turn });
          const operation = wrapTo(one, width, side)!;
          const after = { ...one, ...('set' in operation && operation.set) } as Note;
          const upper = (of: Note, x: number) => applyAffine(drawnOf(of).frame, { x, y: 0 });
          const [before, now] = [
            upper(one, side > 0 ? 0 : one.width),
            upper(after, side > 0 ? 0 : after.width),
          ];
          expect(now.x).toBeCloseTo(before.x, 6);
          expect(now.y).toBeCloseTo(before.y, 6);
        },
      ),
    );
    // What does not wrap is not drawn wider so.
    const bay = { ...note({}), kind: 'view' } as never;
    expect(wrapTo(bay, 300, 1)).toBeUndefined();
  });

  it('is set by its role: larger and bolder a title, slanted a question', () => {
    const said = 'The glass is lightest';
    const faces = ROLE_NAMES.map((role) => {
      const { fontSize, lines } = setNote(said, { width: 240, role });
      return [role, fontSize, lines[0]!.spans?.[0]?.face ?? 'roman'];
    });
    expect(faces).toEqual([
      ['title', 28, 'bold'],
      ['remark', 16, 'roman'],
      ['question', 18, 'italic'],
      ['todo', 16, 'roman'],
    ]);
  });

  it('is pressed on its boxes and links alone', () => {
    const list = note({ text: asChecks('hull\nlamp'), role: 'todo', scale: 2, width: 480 });
    // The box of the second entry stands before its words: margin 14, then the indent of 24 less gap and side.
    const box = { x: 2 * (14 + 24 - 7.2 - 6), y: 2 * (14 + 23 + 10) };
    expect(pressedOfNote(list, box)).toEqual({ check: 1, isDone: false });
    expect(pressedOfNote(list, { ...box, y: box.y - 46 })).toEqual({ check: 0, isDone: false });
    expect(pressedOfNote(list, { x: 200, y: box.y })).toBeUndefined();
    expect(pressedOfNote(list, { x: box.x - 26, y: box.y })).toBeUndefined();
    expect(pressedOfNote(list, { x: box.x - 26, y: box.y }, 24)).toEqual({ check: 1, isDone: false });
    const link = 'https://ferry.example/';
    const linked = note({ text: { blocks: [{ runs: [{ text: 'the ' }, { text: 'rope', link }] }] } });
    expect(pressedOfNote(linked, { x: 50, y: 26 })).toEqual({ link });
    expect(pressedOfNote(linked, { x: 20, y: 26 })).toBeUndefined();
    expect(pressedOfNote(linked, { x: 50, y: 4_000 })).toBeUndefined();
    expect(pressedOfNote(note({ text: 'plain' }), { x: 20, y: 26 })).toBeUndefined();
  });

  it('is written in an ink that can be read on its paper, where none was chosen', () => {
    for (const paper of PAPER_NAMES) {
      const colour = paperColour(paper);
      if (colour) expect(contrastOfHex(inkColour(undefined, paper), colour), paper).toBeGreaterThan(4.5);
    }
    // Every tint to write with can be read on the lightest paper.
    for (const ink of INK_NAMES.filter((name) => !/^v\d/.test(name)))
      expect(contrastOfHex(inkColour(ink, undefined), paperColour(undefined)!), ink).toBeGreaterThan(4.5);
    expect(drawnOf(note({ text: 'x', paper: 'none' })).primitives.map(({ kind }) => kind)).toEqual(['text']);
  });
});

import { Ajv } from 'ajv';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { item } from '../board/test/arbitrary.ts';
import { applyAffine } from '../geometry/index.ts';
import {
  createNote,
  drawnOf,
  ITEM_KINDS,
  ITEM_SCHEMAS,
  type ItemKind,
  isItemKind,
  kindOf,
  noteHeightFor,
  picturesOf,
  propertyOf,
  SET_SCHEMAS,
  wordsOf,
} from './index.ts';

const any = item(fc.uuid());

describe('every kind of item', () => {
  it('has a schema of its own name that knows all it requires, and a set without id and kind', () => {
    for (const kind of Object.keys(ITEM_KINDS) as ItemKind[]) {
      const { properties, required, additionalProperties } = ITEM_SCHEMAS[kind];
      expect(properties.kind).toEqual({ const: kind });
      expect(additionalProperties).toBe(false);
      for (const name of required) expect(Object.keys(properties)).toContain(name);
      const set = Object.keys(SET_SCHEMAS[kind].properties);
      expect([...set, 'id', 'kind'].sort()).toEqual(Object.keys(properties).sort());
    }
    expect(isItemKind('placement')).toBe(true);
    for (const wrong of ['toString', '__proto__', 'ghost', 3, null]) expect(isItemKind(wrong)).toBe(false);
  });

  it('knows what each property is that one may lack: undo sets it back to that', () => {
    const ajv = new Ajv({ strict: false }).addFormat('text', true).addFormat('uuid', true);
    ajv.addFormat('date-time', true);
    for (const kind of Object.keys(ITEM_KINDS) as ItemKind[]) {
      const { properties, required } = ITEM_SCHEMAS[kind];
      const isAllowed = ajv.compile(SET_SCHEMAS[kind]);
      for (const name of Object.keys(properties)) {
        // When a note was begun is said once, as it is created.
        if (required.includes(name) || name === 'begunAt') continue;
        const before = propertyOf({}, name);
        expect(before, `${kind}.${name}`).not.toBeUndefined();
        expect(isAllowed({ [name]: before }), `${kind}.${name}`).toBe(true);
      }
    }
  });

  it('is drawn within its own frame, whose middle is its centre', () => {
    fc.assert(
      fc.property(any, (one) => {
        const { frame, width, height, primitives } = drawnOf(one);
        expect(primitives.length > 0).toBe(!kindOf(one).isUnseen);
        const middle = applyAffine(frame, { x: width / 2, y: height / 2 });
        expect(middle.x).toBeCloseTo(one.centre.x, 6);
        expect(middle.y).toBeCloseTo(one.centre.y, 6);
        for (const primitive of primitives) {
          if (primitive.kind !== 'picture') continue;
          expect(primitive.place.x).toBeGreaterThanOrEqual(0);
          expect(primitive.place.x + primitive.place.width).toBeLessThanOrEqual(width + 1e-9);
          expect(picturesOf(one)).toContain(primitive.picture);
        }
      }),
    );
  });

  it('keeps its aspect when it is sized, and is itself when it is mirrored twice', () => {
    fc.assert(
      fc.property(any, fc.double({ min: 0.1, max: 8, noNaN: true }), (one, factor) => {
        const kind = kindOf(one);
        const before = kind.heightOf(one) / one.width;
        const sized = { ...one, width: one.width * factor, ...kind.sized?.(one, factor) } as typeof one;
        expect(kind.heightOf(sized) / sized.width).toBeCloseTo(before, 6);
        const once = { ...one, ...kind.mirrored?.(one, 'flipX') } as typeof one;
        expect({ ...once, ...kind.mirrored?.(once, 'flipX') }).toEqual(one);
      }),
    );
  });

  it('says what stands on it in one line', () => {
    fc.assert(
      fc.property(any, (one) => {
        expect(wordsOf(one, () => 'Storm\n lantern')).not.toMatch(/\n|^\s|\s$/);
      }),
    );
  });
});

describe('a note', () => {
  const note = (text: string, width = 240) =>
    createNote({
      id: 'n',
      stack: 'a0',
      centre: { x: 0, y: 0 },
      width,
      height: noteHeightFor(text, { width }),
      text,
    });

  it('is as high as its text at any width, and never lower than one line with its margins', () => {
    expect(note('').height).toBe(51);
    const three = note('hull\nramp\nlamp');
    expect(three.height).toBe(2 * 14 + 3 * 23);
    expect(note('hull\nramp\nlamp', 480).height).toBe(2 * three.height);
  });

  it('is paper with its text set on it, the type as large as its width says', () => {
    const [paper, text] = drawnOf(note('The glass is lightest', 480)).primitives;
    expect(paper).toMatchObject({ kind: 'path', fill: '#fafaf9' });
    expect(text).toMatchObject({ kind: 'text', scale: 2, at: { x: 28, y: 28 } });
    expect(text?.kind === 'text' && text.text.lines.map((line) => line.text)).toEqual([
      'The glass is lightest',
    ]);
  });
});

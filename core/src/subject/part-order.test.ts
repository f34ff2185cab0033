import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { SubjectPart } from '../schema/index.ts';
import { layPart, movePart, type PartMove, type PartPlace } from './part-order.ts';

/** "hull[plates rail] ramps" as parts; ids are the names. */
const parse = (text: string): SubjectPart[] =>
  [...text.matchAll(/(\w+)(?:\[([^\]]*)\])?/g)].map(([, name, inner = '']) => ({
    ...{ id: name!, name: name! },
    parts: inner
      .split(' ')
      .filter(Boolean)
      .map((one) => ({ id: one, name: one })),
  }));
const print = (parts: readonly SubjectPart[]): string =>
  parts
    .map(({ name, parts: inner }) =>
      inner.length > 0 ? `${name}[${inner.map((one) => one.name).join(' ')}]` : name,
    )
    .join(' ');

const FERRY = 'hull[plates rail] ramps winch[door]';
const moved = (id: string, move: PartMove) => print(movePart(parse(FERRY), id, move));
const laid = (id: string, place: PartPlace, target: string) =>
  print(layPart(parse(FERRY), id, place, target));

describe('parts are moved by steps', () => {
  it('up and down, with what lies within them', () => {
    expect(moved('winch', 'up')).toBe('hull[plates rail] winch[door] ramps');
    expect(moved('ramps', 'up')).toBe('ramps hull[plates rail] winch[door]');
    expect(moved('hull', 'down')).toBe('ramps hull[plates rail] winch[door]');
    expect(moved('ramps', 'down')).toBe('hull[plates rail] winch[door] ramps');
    expect(moved('hull', 'up')).toBe(FERRY);
    expect(moved('winch', 'down')).toBe(FERRY);
  });

  it('within a part, and on into the next one', () => {
    expect(moved('rail', 'up')).toBe('hull[rail plates] ramps winch[door]');
    expect(moved('plates', 'up')).toBe(FERRY);
    expect(moved('rail', 'down')).toBe('hull[plates] ramps[rail] winch[door]');
    expect(moved('door', 'up')).toBe('hull[plates rail] ramps[door] winch');
    expect(moved('door', 'down')).toBe(FERRY);
  });

  it('into the part above, and out again', () => {
    expect(moved('ramps', 'in')).toBe('hull[plates rail ramps] winch[door]');
    expect(moved('winch', 'in')).toBe('hull[plates rail] ramps[winch door]');
    expect(moved('hull', 'in')).toBe(FERRY);
    expect(moved('plates', 'out')).toBe('hull[rail] plates ramps winch[door]');
    expect(moved('ramps', 'out')).toBe(FERRY);
  });
});

describe('parts are laid', () => {
  it('before, after and within others', () => {
    expect(laid('winch', 'before', 'hull')).toBe('winch[door] hull[plates rail] ramps');
    expect(laid('hull', 'after', 'ramps')).toBe('ramps hull[plates rail] winch[door]');
    expect(laid('ramps', 'after', 'hull')).toBe(FERRY);
    expect(laid('ramps', 'within', 'winch')).toBe('hull[plates rail] winch[door ramps]');
    expect(laid('ramps', 'before', 'rail')).toBe('hull[plates ramps rail] winch[door]');
    expect(laid('plates', 'after', 'ramps')).toBe('hull[rail] ramps plates winch[door]');
    expect(laid('winch', 'after', 'plates')).toBe('hull[plates winch door rail] ramps');
  });

  it('not into themselves', () => {
    expect(laid('hull', 'within', 'rail')).toBe(FERRY);
    expect(laid('hull', 'before', 'hull')).toBe(FERRY);
    expect(laid('hull', 'before', 'gone')).toBe(FERRY);
  });
});

it('no part is lost or doubled, whatever is done', () => {
  const ids = ['hull', 'plates', 'rail', 'ramps', 'winch', 'door'];
  const id = fc.constantFrom(...ids);
  const step = fc.oneof(
    fc.record({ id, move: fc.constantFrom<PartMove>('up', 'down', 'in', 'out') }),
    fc.record({ id, place: fc.constantFrom<PartPlace>('before', 'after', 'within'), target: id }),
  );
  fc.assert(
    fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
      let parts: readonly SubjectPart[] = parse(FERRY);
      for (const one of steps)
        parts =
          'move' in one ? movePart(parts, one.id, one.move) : layPart(parts, one.id, one.place, one.target);
      expect(parts.flatMap((part) => [part.id, ...part.parts.map((inner) => inner.id)]).sort()).toEqual(
        [...ids].sort(),
      );
    }),
  );
});

import fc from 'fast-check';
import {
  type Cluster,
  type LitBall,
  type Mark,
  type PaletteItem,
  type PictureMark,
  ROLE_NAMES,
  TINT_NAMES,
} from '../../items/index.ts';
import { NO_COLOURS } from '../../light/index.ts';
import type { Change, Item, Note, Operation, Placement } from '../../schema/index.ts';
import { richText } from '../../text/test/arbitrary.ts';

const coordinate = fc.integer({ min: -500, max: 500 });
const centre = fc.record({ x: coordinate, y: coordinate });
const fraction = fc.integer({ min: 0, max: 4 }).map((n) => n / 10);
const trim = fc.record(
  {
    x: fraction,
    y: fraction,
    width: fc.integer({ min: 1, max: 6 }).map((n) => n / 10),
    height: fc.integer({ min: 1, max: 6 }).map((n) => n / 10),
    lean: fc.integer({ min: -45, max: 45 }),
    outline: fc.constant('ellipse' as const),
  },
  { requiredKeys: ['x', 'y', 'width', 'height'] },
);
const turn = fc.integer({ min: -179, max: 180 });
const opacity = fc.integer({ min: 1, max: 10 }).map((n) => n / 10);
/** Properties that came later: some items have them not. */
const later = fc.constantFrom({}, { cluster: null, isFixed: false }, { cluster: 'i3', isFixed: true });
const stack = fc.constantFrom('a0', 'a1', 'a1V', 'a2', 'Zz');

export const placementWith = (id: fc.Arbitrary<string>): fc.Arbitrary<Placement> =>
  fc.record({
    id,
    kind: fc.constant('placement' as const),
    stack,
    removed: fc.boolean(),
    centre,
    width: fc.integer({ min: 1, max: 400 }),
    picture: fc.constant('7b7cf7b2-0d0a-5b1c-9d7f-3d9b1c5f1a11'),
    pictureWidth: fc.integer({ min: 1, max: 4000 }),
    pictureHeight: fc.integer({ min: 1, max: 4000 }),
    turn,
    opacity,
    flipX: fc.boolean(),
    flipY: fc.boolean(),
    trim,
  });

export const noteWith = (id: fc.Arbitrary<string>): fc.Arbitrary<Note> =>
  fc
    .tuple(
      fc.record({
        id,
        kind: fc.constant('note' as const),
        stack,
        removed: fc.boolean(),
        centre,
        width: fc.integer({ min: 1, max: 400 }),
        turn,
        opacity,
        height: fc.integer({ min: 1, max: 400 }),
        text: fc.oneof({ weight: 3, arbitrary: fc.string() }, richText),
      }),
      fc.record(
        {
          role: fc.constantFrom(...ROLE_NAMES),
          scale: fc.constantFrom(0.5, 1, 3),
          paper: fc.constantFrom('none', 'v9'),
        },
        { requiredKeys: [] },
      ),
    )
    .map(([one, more]) => ({ ...one, ...more }));

export const clusterWith = (id: fc.Arbitrary<string>): fc.Arbitrary<Cluster> =>
  fc.record({
    id,
    kind: fc.constant('cluster' as const),
    stack,
    removed: fc.boolean(),
    centre,
    width: fc.integer({ min: 1, max: 400 }),
    turn,
    opacity,
    height: fc.integer({ min: 1, max: 400 }),
    title: fc.string(),
    titleSize: fc.constantFrom(1, 16),
    tint: fc.constantFrom(...TINT_NAMES),
    form: fc.constantFrom('open', 'folded', 'spares'),
    openSize: fc.constantFrom(null, { width: 300, height: 200 }),
    picture: fc.constantFrom(null, '7b7cf7b2-0d0a-5b1c-9d7f-3d9b1c5f1a11'),
    pictureWidth: fc.constant(400),
    pictureHeight: fc.constant(300),
  });

export const placement = placementWith(fc.uuid());
export const paletteWith = (id: fc.Arbitrary<string>): fc.Arbitrary<PaletteItem> =>
  fc.record({
    id,
    kind: fc.constant('palette' as const),
    stack,
    removed: fc.boolean(),
    centre,
    width: fc.integer({ min: 1, max: 400 }),
    turn,
    opacity,
    title: fc.string({ maxLength: 20 }),
    swatches: fc.array(
      fc.record({
        hex: fc.constantFrom('#c8281e', '#143ca0', '#f0f0e6'),
        share: fraction,
        name: fc.constantFrom('', 'dull umber'),
        isLocked: fc.boolean(),
      }),
      { minLength: 1, maxLength: 5 },
    ),
    isByShare: fc.boolean(),
    count: fc.integer({ min: 2, max: 24 }),
    accent: fraction,
    madeOf: fc.constantFrom(null, { items: ['i1'], outline: null }),
  });

export const litBallWith = (id: fc.Arbitrary<string>): fc.Arbitrary<LitBall> =>
  fc.record({
    id,
    kind: fc.constant('lit-ball' as const),
    stack,
    removed: fc.boolean(),
    centre,
    width: fc.integer({ min: 1, max: 400 }),
    turn,
    opacity,
    title: fc.string({ maxLength: 20 }),
    colours: fc.constantFrom(NO_COLOURS, { ...NO_COLOURS, light: '#d8b080', 'core shadow': '#402820' }),
    direction: fc.record({
      azimuthDeg: fc.integer({ min: 0, max: 359 }),
      elevationDeg: fc.integer({ min: -90, max: 90 }),
    }),
    fit: fc.constantFrom(null, 0.8),
    of: fc.constantFrom(null, 'i1'),
    marks: fc.constantFrom([], [{ part: 'light' as const, x: 0.5, y: 0.25 }]),
  });

export const markWith = (id: fc.Arbitrary<string>): fc.Arbitrary<Mark> =>
  fc.record({
    id,
    kind: fc.constant('mark' as const),
    stack,
    removed: fc.boolean(),
    centre,
    width: fc.integer({ min: 1, max: 400 }),
    turn,
    opacity,
    flipX: fc.boolean(),
    flipY: fc.boolean(),
    pen: fc.constantFrom(
      'hard-pencil' as const,
      'soft-pencil' as const,
      'wash' as const,
      'hatching' as const,
    ),
    ink: fc.constantFrom('#1d1d1b', '#bf4128'),
    nib: fc.integer({ min: 1, max: 20_000 }),
    smoothing: fraction,
    proportion: fc.constantFrom(0.01, 0.5, 1, 30),
    seed: fc.integer({ min: 0, max: 99 }),
    points: fc.constantFrom([0, 0, 127, 0], [0, 0, 127, 0, 50_000, 20_000, 255, 60, 100_000, 10, 0, 0]),
  });

export const pictureMarkWith = (id: fc.Arbitrary<string>): fc.Arbitrary<PictureMark> =>
  fc
    .record({ mark: markWith(id), on: fc.constantFrom('i0', 'i1', 'i2', 'gone') })
    .map(({ mark, on }) => ({ ...mark, kind: 'picture-mark', on }));

export const item = (id: fc.Arbitrary<string>): fc.Arbitrary<Item> =>
  fc
    .tuple(
      fc.oneof(
        placementWith(id),
        noteWith(id),
        clusterWith(id),
        paletteWith(id),
        litBallWith(id),
        markWith(id),
        pictureMarkWith(id),
      ),
      later,
    )
    .map(([one, more]) => ({ ...one, ...more }));

/** A board of up to six items with the ids i0 … i5. */
export const board: fc.Arbitrary<Item[]> = fc
  .array(item(fc.constant('')), { maxLength: 6 })
  .map((items) => items.map((one, index) => ({ ...one, id: `i${index}` })));

const set: fc.Arbitrary<Record<string, unknown>> = fc.oneof(
  centre.map((value) => ({ centre: value })),
  fc.integer({ min: 1, max: 400 }).map((width) => ({ width })),
  fc.boolean().map((removed) => ({ removed })),
  turn.map((value) => ({ turn: value })),
  opacity.map((value) => ({ opacity: value })),
  stack.map((value) => ({ stack: value })),
  fc.constantFrom(null, 'i0', 'i3').map((cluster) => ({ cluster })),
  fc.boolean().map((isFixed) => ({ isFixed })),
  fc.tuple(centre, fc.integer({ min: 1, max: 9 })).map(([value, width]) => ({ centre: value, width })),
);

const operation: fc.Arbitrary<Operation> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ item: fc.constantFrom('i0', 'i1', 'i2', 'i3', 'i4', 'i5'), set }) },
  { weight: 1, arbitrary: item(fc.uuid()).map((create) => ({ create: { ...create, removed: false } })) },
);

export const change: fc.Arbitrary<Change> = fc.record({
  id: fc.uuid(),
  operations: fc.array(operation, { minLength: 1, maxLength: 4 }),
});

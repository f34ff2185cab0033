import fc from 'fast-check';

/** As much of JSON Schema as our own schemas use. */
export interface Schema {
  readonly type?: string | readonly string[];
  readonly format?: string;
  readonly pattern?: string;
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly minLength?: number;
  readonly maxLength?: number;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly items?: Schema;
  readonly minItems?: number;
  readonly maxItems?: number;
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly required?: readonly string[];
  readonly additionalProperties?: boolean | Schema;
  readonly oneOf?: readonly Schema[];
  readonly anyOf?: readonly Schema[];
}

/** Words in which somebody once found a fault. */
const HOSTILE_TEXTS = [
  ...['', ' ', '\0', 'a\0b', '\ud83d', '\ude00x', 'e\u0301', '\u200e', '\u202etxt', '😀', 'x'.repeat(20_001)],
  ...["'; drop table pictures; --", '%', '%00', '_', '\\', '{}', 'null', '0000-01-01', '9999-99-99'],
  ...[
    '../../etc/passwd',
    '[::127.0.0.1]',
    'http://127.0.0.1:1/',
    'urn:uuid:8f14e45f-ceea-467f-a8f4-0d9c7ad3b3c0',
  ],
  ...['NaN', '1e308', '-1', '9223372036854775807', '9223372036854775808', '__proto__', 'constructor'],
];
const HOSTILE_NUMBERS = [...[0, -0, -1, 1e308, -1e308, 5e-324, 2 ** 31, 2 ** 53, 2 ** 63, 0.1, 1e15, null]];

const text = fc.oneof(
  fc.string({ maxLength: 40 }),
  fc.string({ unit: 'grapheme', maxLength: 20 }),
  fc.string({ unit: fc.nat(0xffff).map((code) => String.fromCharCode(code)), maxLength: 10 }),
  fc.constantFrom(...HOSTILE_TEXTS),
);
const anything = fc.oneof(
  { weight: 3, arbitrary: text },
  { weight: 2, arbitrary: fc.constantFrom<unknown>(...HOSTILE_NUMBERS) },
  { weight: 1, arbitrary: fc.jsonValue({ maxDepth: 3 }) as fc.Arbitrary<unknown> },
);

/** One string a schema takes; where a pattern rules, one that it was made from. */
function stringOf(schema: Schema, ids: readonly string[]): fc.Arbitrary<unknown> {
  const { format, pattern, maxLength = 40 } = schema;
  if (format === 'uuid') return fc.oneof(fc.constantFrom(...ids), fc.uuid());
  if (format === 'date')
    return fc
      .date({ min: new Date('0001-01-01'), max: new Date('9999-12-31'), noInvalidDate: true })
      .map((date) => date.toISOString().slice(0, 10));
  if (pattern?.startsWith('^https?')) return fc.webUrl();
  if (pattern && pattern !== '^(?!0000)') return fc.oneof(fc.stringMatching(new RegExp(pattern)), text);
  return fc.string({ unit: 'grapheme', maxLength: Math.min(maxLength, 60) });
}

function validOf(schema: Schema, ids: readonly string[], depth: number): fc.Arbitrary<unknown> {
  const of = (one: Schema) => arbitraryOf(one, ids, depth + 1);
  if (schema.const !== undefined) return fc.constant(schema.const);
  if (schema.enum) return fc.constantFrom(...schema.enum);
  const some = schema.oneOf ?? schema.anyOf;
  if (some) return fc.oneof(...some.map(of));
  const types = schema.type === undefined ? [] : [schema.type].flat();
  const byType = types.map((type): fc.Arbitrary<unknown> => {
    const { minimum: min = -1e7, maximum: max = 1e7 } = schema;
    switch (type) {
      case 'null':
        return fc.constant(null);
      case 'boolean':
        return fc.boolean();
      case 'integer':
        return fc.integer({ min: Math.ceil(min), max: Math.floor(max) });
      case 'number':
        return fc.double({ min, max, noNaN: true });
      case 'string':
        return stringOf(schema, ids);
      case 'array':
        return fc.array(of(schema.items ?? {}), { minLength: schema.minItems ?? 0, maxLength: 4 });
      default:
        return objectOf(schema, ids, depth);
    }
  });
  return byType.length > 0 ? fc.oneof(...byType) : anything;
}

function objectOf(schema: Schema, ids: readonly string[], depth: number): fc.Arbitrary<unknown> {
  const { properties = {}, required = [], additionalProperties } = schema;
  const record = fc.record(
    Object.fromEntries(
      Object.entries(properties).map(([name, one]) => [name, arbitraryOf(one, ids, depth + 1)]),
    ),
    { requiredKeys: [...required] },
  );
  const others =
    additionalProperties === false
      ? anything
      : arbitraryOf(typeof additionalProperties === 'object' ? additionalProperties : {}, ids, depth + 1);
  const name = fc.oneof(fc.constantFrom(...ids), text);
  return fc.oneof(
    { weight: 4, arbitrary: record },
    {
      weight: 1,
      arbitrary: fc
        .tuple(record, fc.dictionary(name, others, { maxKeys: 3 }))
        .map(([known, more]) => ({ ...more, ...known })),
    },
  );
}

/**
 * Values for a schema: mostly such as it takes, so that they get as far as the database, and at every place now and then
 * something else.
 *
 * @param ids - of things that are there
 */
export function arbitraryOf(schema: Schema, ids: readonly string[], depth = 0): fc.Arbitrary<unknown> {
  return fc.oneof({ weight: 11, arbitrary: validOf(schema, ids, depth) }, { weight: 1, arbitrary: anything });
}

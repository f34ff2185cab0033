import { cleanName } from '@miradero/core/picture';
import { isStorableText, isText, lengthOfText } from '@miradero/core/text';
import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import addFormatsModule from 'ajv-formats';
import { ProblemError } from './problem.ts';

const addFormats = addFormatsModule as unknown as (ajv: Ajv) => Ajv;
const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

/** Formats as this server means them: ids in their one plain form, text that can be kept as it comes. */
const withFormats = (ajv: Ajv): Ajv =>
  addFormats(ajv)
    .addFormat('uuid', UUID)
    .addFormat('text', isStorableText)
    // Something that can be read must be left of a name.
    .addFormat('name', (text) => isStorableText(text) && cleanName(text) !== '')
    .addKeyword({
      ...{ keyword: 'mostCharacters', type: 'object', schemaType: 'number', errors: false },
      validate: (most: number, text: unknown) => !isText(text) || lengthOfText(text) <= most,
    });
const strict = withFormats(new Ajv({ allErrors: false }));
const coercing = withFormats(new Ajv({ allErrors: false, coerceTypes: true }));

export const explain = (errors: ErrorObject[] | null | undefined): string => {
  const first = errors?.[0];
  if (!first) return 'is not allowed';
  const message =
    first.keyword === 'format' && ['text', 'name'].includes(first.params.format)
      ? 'is empty or holds characters that cannot be kept (halves of characters, NUL, or accents apart from their letters)'
      : (first.message ?? 'is not allowed');
  return `${first.instancePath || 'body'} ${message}`;
};

function parserWith(ajv: Ajv) {
  return <T>(schema: object): ((value: unknown) => T) => {
    const validate = ajv.compile(schema) as ValidateFunction<T>;
    return (value) => {
      if (validate(value)) return value;
      throw new ProblemError('malformed', explain(validate.errors));
    };
  };
}

/** Compiles a check of bodies. @returns a parser that throws a `malformed` problem */
export const bodyParser = parserWith(strict);
/** The same for queries, whose values arrive as text. */
export const queryParser = parserWith(coercing);
export const compileSchema = (schema: object): ValidateFunction => strict.compile(schema);
/** @returns a check that says what is wrong, or undefined */
export function parserOf(schema: object): (value: unknown) => ErrorObject[] | undefined {
  const validate = compileSchema(schema);
  return (value) => (validate(value) ? undefined : (validate.errors ?? []));
}

/** @throws ProblemError `picture-missing` for what is no id */
export function pictureIdFrom(text: string): string {
  if (!UUID.test(text)) throw new ProblemError('picture-missing');
  return text;
}

/** Whether a text has the form of an id. */
export const isUuid = (text: string): boolean => /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(text);

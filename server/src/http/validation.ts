import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import addFormatsModule from 'ajv-formats';
import { ProblemError } from './problem.ts';

const addFormats = addFormatsModule as unknown as (ajv: Ajv) => Ajv;
const strict = addFormats(new Ajv({ allErrors: false }));
const coercing = addFormats(new Ajv({ allErrors: false, coerceTypes: true }));

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

export const explain = (errors: ErrorObject[] | null | undefined): string => {
  const first = errors?.[0];
  return first ? `${first.instancePath || 'body'} ${first.message ?? 'is not allowed'}` : 'is not allowed';
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

export function parseUuid(
  text: unknown,
  missing: 'board-missing' | 'picture-missing' | 'subject-missing',
): string {
  if (typeof text !== 'string' || !UUID.test(text)) throw new ProblemError(missing);
  return text;
}

export function parseHash(text: unknown): string {
  if (typeof text !== 'string' || !/^[0-9a-f]{64}$/.test(text)) throw new ProblemError('level-missing');
  return text;
}

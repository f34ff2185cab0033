import {
  type Bytes,
  type Contract,
  methodOf,
  PROBLEMS,
  pathOf,
  type RouteName,
} from '@miradero/core/contracts';

type Json = { readonly [name: string]: unknown };
interface Named {
  readonly name: RouteName;
  readonly contract: Contract;
}

/** What any route may answer with, whatever it is. */
const COMMON = [
  'malformed',
  'foreign-host',
  'foreign-origin',
  'too-large',
  'database-gone',
  'unexpected',
] as const;
const UUID = { type: 'string', format: 'uuid' };
const HASH = { type: 'string', pattern: '^[0-9a-f]{64}$' };
const PROBLEM = {
  type: 'object',
  properties: {
    ...{ type: { type: 'string' }, title: { type: 'string' }, detail: { type: 'string' } },
    ...{ status: { type: 'integer' }, code: { enum: Object.keys(PROBLEMS) } },
  },
  required: ['type', 'title', 'status', 'code'],
};

/** The same schema without our ids, and with every part that has a title moved to the components. */
function placed(schema: unknown, components: Map<string, unknown>): unknown {
  if (Array.isArray(schema)) return schema.map((one) => placed(one, components));
  if (typeof schema !== 'object' || schema === null) return schema;
  const { $id, title, ...rest } = schema as Json;
  // A property may be called title, too: then it is a schema itself.
  const name = typeof title === 'string' ? title : undefined;
  const own = name === undefined && title !== undefined ? { title, ...rest } : rest;
  const inside = Object.fromEntries(Object.entries(own).map(([key, one]) => [key, placed(one, components)]));
  if (name === undefined) return inside;
  components.set(name, inside);
  return { $ref: `#/components/schemas/${name}` };
}

const inPath = ([name]: readonly [string, unknown]) => ({
  ...{ name, in: 'path', required: true, schema: name === 'hash' ? HASH : UUID },
});

function inQuery(schema: object): Json[] {
  const { properties, required = [] } = schema as { properties: Json; required?: readonly string[] };
  return Object.entries(properties).map(([name, one]) => ({
    ...{ name, in: 'query', required: required.includes(name), schema: one },
  }));
}

const withoutId = (schema: object): Json => {
  const { $id, ...rest } = schema as Json;
  return rest;
};

function answered({ answer }: Contract, components: Map<string, unknown>): Json {
  if (answer === 'nothing') return { description: 'Done' };
  const { mediaTypes } = answer as Bytes;
  const content = mediaTypes
    ? Object.fromEntries(mediaTypes.map((type) => [type, {}]))
    : { 'application/json': { schema: placed((answer as { schema: object }).schema, components) } };
  return { description: 'Done', content };
}

/** Problems of a route by their status, each with the codes that it may bear. */
function problems({ parameters = {}, problems: own = [] }: Contract): Json {
  const codes = new Set([...COMMON, ...Object.values(parameters), ...own]);
  const byStatus = new Map<number, string[]>();
  for (const code of codes) {
    const [status] = PROBLEMS[code];
    byStatus.set(status, [...(byStatus.get(status) ?? []), code]);
  }
  return Object.fromEntries(
    [...byStatus].map(([status, named]) => [
      String(status),
      {
        description: named.map((code) => `${code}: ${PROBLEMS[code as keyof typeof PROBLEMS][1]}`).join('\n'),
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    ]),
  );
}

function operation(contract: Contract, components: Map<string, unknown>): Json {
  const { summary, whoMay, body, form, query, status } = contract;
  const success = status ?? (contract.answer === 'nothing' ? 204 : 200);
  const content = body
    ? { 'application/json': { schema: withoutId(body.schema) } }
    : form && { 'multipart/form-data': { schema: form } };
  return {
    summary,
    'x-who-may': whoMay,
    ...(query && { parameters: inQuery(query.schema) }),
    ...(content && { requestBody: { required: true, content } }),
    responses: { [success]: answered(contract, components), ...problems(contract) },
  };
}

/** OpenAPI 3.1 of a server with these routes, from the same contracts that check its requests. */
export function openApiOf(routes: readonly Named[]): Json {
  const components = new Map<string, unknown>([['Problem', PROBLEM]]);
  const paths: Record<string, Record<string, unknown>> = {};
  for (const { name, contract } of routes) {
    const path = pathOf(name).replace(/:(\w+)/g, '{$1}');
    const parameters = Object.entries(contract.parameters ?? {}).map(inPath);
    paths[path] ??= parameters.length > 0 ? { parameters } : {};
    paths[path][methodOf(name).toLowerCase()] = operation(contract, components);
  }
  return {
    ...{ openapi: '3.1.0', info: { title: 'Miradero', version: '0.1.0' }, paths },
    components: { schemas: Object.fromEntries(components) },
  };
}

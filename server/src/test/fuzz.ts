import { type Agent, request } from 'node:http';
import fc from 'fast-check';
import { arbitraryOf, type Schema } from './arbitrary-of.ts';

interface Parameter {
  readonly name: string;
  readonly in: string;
  readonly schema: Schema;
}
interface Operation {
  readonly parameters?: readonly Parameter[];
  readonly requestBody?: { readonly content: Readonly<Record<string, { readonly schema: Schema }>> };
}
export interface OpenApi {
  readonly paths: Readonly<Record<string, Readonly<Record<string, unknown>>>>;
}

/** One request as it goes over the wire. */
export interface FuzzRequest {
  readonly method: string;
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string | undefined;
}
export interface FuzzAnswer {
  readonly status: number;
  readonly ms: number;
  readonly text: string;
}

const METHODS = ['get', 'post', 'patch', 'put', 'delete'];
/** A stream without an end has no answer to wait for. */
const ENDLESS = '/api/events';

/** Percent-encodes what a path or query cannot hold; half a character goes as the bytes that it never was. */
const encode = (value: unknown): string => {
  const text = typeof value === 'string' ? value : (JSON.stringify(value) ?? '');
  return encodeURIComponent(text.replace(/\p{Surrogate}/gu, '\ufffd'));
};

const HEADERS = fc.oneof(
  { weight: 12, arbitrary: fc.constant({ 'content-type': 'application/json' }) },
  {
    weight: 1,
    arbitrary: fc.constantFrom<Record<string, string>>(
      { 'content-type': 'application/json; charset=utf-99' },
      { 'content-type': 'application/json', 'content-encoding': 'odd' },
      { 'content-type': 'application/json', 'content-encoding': 'gzip' },
      { 'content-type': 'text/plain' },
      { 'content-type': 'multipart/form-data' },
      { 'content-type': 'multipart/form-data; boundary=x' },
      { 'content-type': 'application/json', range: 'bytes=9-2' },
      { 'content-type': 'application/json', 'if-none-match': '"x"' },
    ),
  },
);

const PART = fc.record({
  head: fc.constantFrom(
    'Content-Disposition: form-data; name="file"; filename="a.png"',
    'Content-Disposition: form-data; name="file"; filename="a\0b.png"',
    `Content-Disposition: form-data; name="file"; filename="${'n'.repeat(18_000)}.png"`,
    'junk',
    'Content-Disposition: form-data; name="about"',
    'Content-Disposition: form-data',
    '',
  ),
  body: fc.oneof(
    fc.string(),
    fc.constant('\x89PNG\r\n\x1a\n'),
    fc.constant('{"name":"\\u0000"}'),
    fc.constant('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'),
  ),
});
const MULTIPART = fc
  .tuple(fc.array(PART, { maxLength: 3 }), fc.boolean())
  .map(
    ([parts, isEnded]) =>
      parts.map(({ head, body }) => `--x\r\n${head}\r\n\r\n${body}\r\n`).join('') +
      (isEnded ? '--x--\r\n' : ''),
  );

/** Requests to every operation of a document, by its own schemas and beside them. */
export function requestsTo(document: OpenApi, ids: readonly string[], hashes: readonly string[]) {
  const operations = Object.entries(document.paths).flatMap(([path, item]) =>
    METHODS.filter((method) => method in item && path !== ENDLESS).map((method) => {
      const operation = item[method] as Operation;
      const parameters = [...((item.parameters as Parameter[]) ?? []), ...(operation.parameters ?? [])];
      return requestTo(method.toUpperCase(), path, parameters, operation, ids, hashes);
    }),
  );
  return fc.oneof(...operations);
}

function requestTo(
  method: string,
  path: string,
  parameters: readonly Parameter[],
  { requestBody }: Operation,
  ids: readonly string[],
  hashes: readonly string[],
): fc.Arbitrary<FuzzRequest> {
  const fuzzed = ({ name, schema }: Parameter) =>
    name === 'hash'
      ? fc.oneof(fc.constantFrom<unknown>(...hashes), arbitraryOf(schema, ids))
      : arbitraryOf(schema, ids);
  const inPath = parameters.filter((one) => one.in === 'path');
  const inQuery = parameters.filter((one) => one.in === 'query');
  const body = Object.entries(requestBody?.content ?? {})[0];
  const isForm = body?.[0] === 'multipart/form-data';
  const bodies: fc.Arbitrary<unknown> = body
    ? isForm
      ? MULTIPART
      : arbitraryOf(body[1].schema, ids)
    : fc.constant(undefined);
  return fc
    .record({
      path: fc.tuple(...inPath.map(fuzzed)),
      query: fc.record(Object.fromEntries(inQuery.map((one) => [one.name, fuzzed(one)])), {
        requiredKeys: [],
      }),
      body: bodies,
      headers: isForm
        ? fc.constant({ 'content-type': 'multipart/form-data; boundary=x' })
        : (HEADERS as fc.Arbitrary<Record<string, string>>),
    })
    .map((given): FuzzRequest => {
      const filled = inPath.reduce(
        (text, { name }, index) => text.replace(`{${name}}`, encode(given.path[index])),
        path,
      );
      const query = Object.entries(given.query).map(([name, value]) => `${name}=${encode(value)}`);
      return {
        method,
        path: query.length > 0 ? `${filled}?${query.join('&')}` : filled,
        headers: given.headers,
        body: typeof given.body === 'string' && isForm ? given.body : jsonOf(given.body),
      };
    });
}

const jsonOf = (value: unknown): string | undefined =>
  value === undefined ? undefined : JSON.stringify(value);

/** Sends a request as it is: nothing is put right on the way. A connection that breaks is status 0. */
export function sendFuzz(address: string, agent: Agent, one: FuzzRequest): Promise<FuzzAnswer> {
  const { hostname, port } = new URL(address);
  const started = performance.now();
  return new Promise((resolve) => {
    const end = (status: number, text: string) => resolve({ status, text, ms: performance.now() - started });
    const asked = request(
      { agent, hostname, port, method: one.method, path: one.path, headers: { ...one.headers } },
      (response) => {
        let text = '';
        response.setEncoding('utf8');
        response.on('data', (piece) => {
          if (text.length < 2_000) text += piece;
        });
        response.on('end', () => end(response.statusCode ?? 0, text));
        response.on('error', (error) => end(0, error.message));
      },
    );
    asked.on('error', (error) => end(0, error.message));
    asked.end(one.body);
  });
}

import type { AnswerOf, BodyOf, ParametersOf, QueryOf, Routes } from '@miradero/core/contracts';
import { DATABASE_HEADER, type Problem } from '@miradero/core/schema';
import { withStorableText } from '@miradero/core/text';

/** The server answered, and said no. */
export class RefusedError extends Error {
  readonly status: number;
  readonly problem: Problem;
  constructor(problem: Problem) {
    super(problem.detail ? `${problem.title} ${problem.detail}` : problem.title);
    this.status = problem.status;
    this.problem = problem;
  }
}

/** Why nothing reaches the server right now. */
export type ReachTrouble = 'server-gone' | 'database-gone' | 'disk-full' | 'other-database';

/** The trouble that an answer's problem code stands for. */
export const reachTroubleOf = (code: string | undefined): ReachTrouble =>
  code === 'database-gone' || code === 'disk-full' ? code : 'server-gone';

/** The server could not be asked, or is in trouble itself: ask again later. */
export class UnreachableError extends Error {
  readonly trouble: ReachTrouble;
  constructor(message: string, trouble: ReachTrouble, options?: ErrorOptions) {
    super(message, options);
    this.trouble = trouble;
  }
}

/** The server is there, but failed at this very request: the same again will hardly do better. */
export class FailedError extends Error {}

let databaseId: string | undefined;

/** Names the database that everything written from now on is meant for. */
export function writeTo(id: string): void {
  databaseId = id;
}

/** What every write bears. */
export const databaseHeaders = (): Readonly<Record<string, string>> =>
  databaseId === undefined ? {} : { [DATABASE_HEADER]: databaseId };

/** Codes of a server that is in trouble itself, whatever it was asked. */
const IS_IN_TROUBLE = new Set([429, 502, 503, 504, 507]);

/**
 * Asks the server for JSON.
 *
 * @param signal - ends the waiting; the reason of its abort is thrown
 * @throws RefusedError for an answer 4xx; UnreachableError where there is none, or the server is in trouble itself, or
 *   keeps another database; FailedError where it failed at this request
 */
export async function askServer<T>(
  path: string,
  method = 'GET',
  body?: object,
  signal?: AbortSignal,
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      ...(signal ? { signal } : {}),
      headers: {
        ...(method === 'GET' ? {} : databaseHeaders()),
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(withStorableText(body)) }),
    });
  } catch (cause) {
    signal?.throwIfAborted();
    throw new UnreachableError('The server cannot be reached.', 'server-gone', { cause });
  }
  if (response.status === 204) return undefined as T;
  if (response.ok) {
    try {
      return (await response.json()) as T;
    } catch (cause) {
      // Cut off in the middle, or not from our server at all.
      throw new UnreachableError('The answer of the server broke off.', 'server-gone', { cause });
    }
  }
  const problem = (await response.json().catch(() => undefined)) as Problem | undefined;
  const known = problem?.title
    ? problem
    : {
        type: '',
        status: response.status,
        code: 'unknown',
        title: `The server answered ${response.status}.`,
      };
  if (known.code === 'foreign-database') throw new UnreachableError(known.title, 'other-database');
  if (IS_IN_TROUBLE.has(response.status)) {
    throw new UnreachableError(known.title, reachTroubleOf(known.code));
  }
  if (response.status >= 500) throw new FailedError(known.title);
  throw new RefusedError(known);
}

/** What a route has to be told; what it does not ask for may not be said. */
export type Telling<Name extends keyof Routes> = ([ParametersOf<Name>] extends [never]
  ? unknown
  : { readonly parameters: Readonly<Record<ParametersOf<Name>, string>> }) &
  (QueryOf<Routes[Name]> extends undefined
    ? unknown
    : { readonly query: QueryOf<Routes[Name]> | URLSearchParams }) &
  (BodyOf<Routes[Name]> extends undefined ? unknown : { readonly body: BodyOf<Routes[Name]> });

interface Told {
  readonly parameters?: Readonly<Record<string, string>>;
  readonly query?: object;
  readonly body?: object;
}

const queryText = (query: object | undefined): string => {
  if (query === undefined) return '';
  const given = query instanceof URLSearchParams ? [...query] : Object.entries(query);
  const said = given.flatMap(([name, value]) => (value === undefined ? [] : [[name, String(value)]]));
  return said.length > 0 ? `?${new URLSearchParams(said)}` : '';
};

/**
 * Asks a route of the server by its name ("GET /api/boards/:id"), as its contract says.
 *
 * @param signal - ends the waiting; the reason of its abort is thrown
 * @throws the errors of `askServer`
 */
export function ask<Name extends keyof Routes>(
  name: Name,
  ...[telling, signal]: unknown extends Telling<Name>
    ? [telling?: undefined, signal?: AbortSignal]
    : [telling: Telling<Name>, signal?: AbortSignal]
): Promise<AnswerOf<Routes[Name]>> {
  const { parameters = {}, query, body } = (telling ?? {}) as Told;
  const [method, path] = name.split(' ') as [string, string];
  const filled = path.replace(/:(\w+)/g, (_, one: string) => encodeURIComponent(parameters[one]!));
  return askServer(`${filled}${queryText(query)}`, method, body, signal);
}

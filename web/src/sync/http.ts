import type { Problem } from '@miradero/core/schema';
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
export type ReachTrouble = 'server-gone' | 'database-gone' | 'disk-full';

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

/**
 * Asks the server for JSON.
 * @throws RefusedError for an answer 4xx, UnreachableError for none or 5xx
 */
export async function askServer<T>(path: string, method = 'GET', body?: object): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      ...(body === undefined
        ? {}
        : { body: JSON.stringify(withStorableText(body)), headers: { 'Content-Type': 'application/json' } }),
    });
  } catch (cause) {
    throw new UnreachableError('The server cannot be reached.', 'server-gone', { cause });
  }
  if (response.status === 204) return undefined as T;
  if (response.ok) return (await response.json()) as T;
  const problem = (await response.json().catch(() => undefined)) as Problem | undefined;
  const known = problem?.title
    ? problem
    : {
        type: '',
        status: response.status,
        code: 'unknown',
        title: `The server answered ${response.status}.`,
      };
  if (response.status >= 500 || response.status === 429) {
    throw new UnreachableError(known.title, reachTroubleOf(known.code));
  }
  throw new RefusedError(known);
}

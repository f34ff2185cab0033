// Requests have a log by it, also for those who come here without the app.

import { PROBLEMS, type ProblemCode } from '@miradero/core/contracts';
import type { Problem } from '@miradero/core/schema';
import type { ErrorRequestHandler, RequestHandler, Response } from 'express';
import type {} from 'pino-http';

export class ProblemError extends Error {
  readonly code: ProblemCode;
  readonly detail: string | undefined;
  /** What else the answer tells, beside the members that every problem has. */
  readonly more: object;

  constructor(code: ProblemCode, detail?: string, more: object = {}) {
    super(PROBLEMS[code][1]);
    this.code = code;
    this.detail = detail;
    this.more = more;
  }
}

export function problemOf(code: ProblemCode, detail?: string): Problem {
  const [status, title] = PROBLEMS[code];
  return { type: `urn:miradero:problem:${code}`, status, code, title, ...(detail ? { detail } : {}) };
}

/** SQLSTATE classes and socket errors that mean: the database itself is away, not the statement wrong. */
const isDatabaseGone = (error: unknown): boolean => {
  const { code, name, message } = error as { code?: string; name?: string; message?: string };
  return (
    /^(08|57P|53)/.test(code ?? '') ||
    ['ECONNREFUSED', 'ECONNRESET', 'EPIPE'].includes(code ?? '') ||
    name === 'KnexTimeoutError' ||
    /Connection (terminated|ended)|not queryable/i.test(message ?? '')
  );
};

/** PostgreSQL's `disk_full`, or the disk where uploads are laid down. */
const isDiskFull = (error: unknown): boolean =>
  ['53100', 'ENOSPC', 'EDQUOT'].includes((error as { code?: string }).code ?? '');

/** SQLSTATE class 22: a value that the database cannot take, whatever the check let through. */
const isUnstorable = (error: unknown): boolean =>
  /^22[0-9A-Z]{3}$/.test(String((error as { code?: unknown }).code ?? ''));

function codeOf(thrown: unknown): [ProblemCode, string | undefined] {
  // Whatever was thrown, it is answered: also what is no error at all.
  const error = typeof thrown === 'object' && thrown !== null ? thrown : new Error(String(thrown));
  if (error instanceof ProblemError) return [error.code, error.detail];
  const { type, status } = error as { type?: string; status?: number };
  if (type === 'entity.too.large') return ['too-large', undefined];
  if (type === 'charset.unsupported' || type === 'encoding.unsupported')
    return ['unknown-encoding', undefined];
  if (type === 'entity.parse.failed') return ['malformed', 'The body is not valid JSON.'];
  if (status === 403 || status === 404) return ['not-found', undefined];
  if (status !== undefined && status >= 400 && status < 500) return ['malformed', undefined];
  if (isUnstorable(error)) return ['malformed', 'It holds a value that the database cannot keep.'];
  if (isDiskFull(error)) return ['disk-full', undefined];
  return [isDatabaseGone(error) ? 'database-gone' : 'unexpected', undefined];
}

/** Answers with what an error means, as an RFC 9457 problem document: the one place where that is done. */
export function sendProblem(response: Response, error: unknown): void {
  const [code, detail] = codeOf(error);
  const more = error instanceof ProblemError ? error.more : {};
  const problem = { ...problemOf(code, detail), ...more };
  response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
}

export const answerProblems: ErrorRequestHandler = (error, request, response, next) => {
  if (codeOf(error)[0] === 'unexpected') request.log?.error({ err: error }, 'unexpected');
  if (response.headersSent) next(error);
  else sendProblem(response, error);
};

export const answerNotFound: RequestHandler = () => {
  throw new ProblemError('not-found');
};

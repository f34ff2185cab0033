// Requests have a log by it, also for those who come here without the app.

import type { Problem } from '@miradero/core/schema';
import type { ErrorRequestHandler, RequestHandler, Response } from 'express';
import type {} from 'pino-http';

/** Every error this server answers with: stable code → status and words. */
const PROBLEMS = {
  malformed: [400, 'The request is not understood.'],
  'foreign-database': [
    409,
    'This server keeps another database than the one that this was meant for. Nothing of it was taken.',
  ],
  'foreign-origin': [403, 'Requests from other sites are not taken.'],
  'wrong-key': [
    403,
    'This bookmark has no right to hand anything in any more. Make a new one in the settings.',
  ],
  'foreign-host': [421, 'This address is not served here.'],
  'not-found': [404, 'There is nothing at this address.'],
  'board-missing': [404, 'This board does not exist.'],
  'picture-missing': [404, 'This picture has not arrived here.'],
  'subject-missing': [404, 'This subject does not exist.'],
  'level-missing': [404, 'This copy of the picture has not been made yet.'],
  'board-exists': [409, 'A board with this id exists already.'],
  ahead: [409, 'The server knows an earlier state of this board than you do.'],
  'too-large': [413, 'The request is too large.'],
  'no-such-part': [416, 'The file does not reach so far.'],
  'unknown-encoding': [415, 'The request comes in an encoding that is not read here.'],
  'not-multipart': [415, 'Pictures are sent as a form with files.'],
  'all-refused': [422, 'None of the files could be taken.'],
  'address-unreadable': [422, 'This is no address of the web.'],
  'address-private': [422, 'This address lies inside a network, not in the web. It is not asked.'],
  'address-unreachable': [422, 'Nothing answers at this address.'],
  'address-refused': [422, 'The site does not hand it out.'],
  'address-slow': [422, 'The site takes too long.'],
  'address-large': [422, 'What is there is too large.'],
  'address-circles': [422, 'The address leads from one to the next without end.'],
  'address-unusable': [422, 'What is there is neither a picture nor a page.'],
  'too-many-addresses': [429, 'Many addresses were asked for in a short time. It goes on in a moment.'],
  'database-gone': [503, 'The database cannot be reached. It is tried again; nothing is lost.'],
  'disk-full': [507, 'The server has no room left on its disk. What was saved stays saved.'],
  unexpected: [500, 'Something went wrong on the server. Nothing that was saved is lost.'],
} as const satisfies Record<string, readonly [number, string]>;

export type ProblemCode = keyof typeof PROBLEMS;
export const PROBLEM_CODES = Object.keys(PROBLEMS) as ProblemCode[];

export class ProblemError extends Error {
  readonly code: ProblemCode;
  readonly detail: string | undefined;

  constructor(code: ProblemCode, detail?: string) {
    super(PROBLEMS[code][1]);
    this.code = code;
    this.detail = detail;
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
  const problem = problemOf(code, detail);
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

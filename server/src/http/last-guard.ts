import { AsyncLocalStorage } from 'node:async_hooks';
import type { RequestHandler, Response } from 'express';
import { sendProblem } from '../requests/problem.ts';

const answering = new AsyncLocalStorage<Response>();

/** Remembers, for whatever a request sets going, which answer is still owed. */
export const rememberAnswer: RequestHandler = (_request, response, next) => {
  answering.run(response, next);
};

/**
 * The last guard: what nobody caught (an event of a stream, a promise nobody waits for) is logged and, where it belongs
 * to a request, answered; it never ends the process. All state is in the database, behind transactions, so that there is
 * none in memory that could have been left half altered.
 *
 * @returns a function that takes the guard away
 */
export function guardProcess(log: (error: unknown) => void): () => void {
  const hear = (error: unknown) => {
    log(error);
    const response = answering.getStore();
    if (!response || response.writableEnded) return;
    if (response.headersSent) response.destroy();
    else sendProblem(response, error);
  };
  process.on('uncaughtException', hear);
  process.on('unhandledRejection', hear);
  return () => {
    process.off('uncaughtException', hear);
    process.off('unhandledRejection', hear);
  };
}

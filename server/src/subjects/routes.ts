import { type PutSubject, putSubjectSchema } from '@miradero/core/schema';
import { coverageOf } from '@miradero/core/subject';
import { json, Router } from 'express';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findServing } from '../database/serving.ts';
import { findSubject, listSubjects, putSubject } from '../database/subjects.ts';
import { ProblemError } from '../http/problem.ts';
import { bodyParser, parseUuid } from '../http/validation.ts';

const parsePut = bodyParser<PutSubject>(putSubjectSchema);

/** Everything under `/api/subjects`. */
export function subjectRoutes(knex: Knex, owner: string): Router {
  const router = Router();
  const idOf = (request: { params: Record<string, string | string[]> }) =>
    parseUuid(request.params.id, 'subject-missing');

  router.get('/', async (_request, response) => {
    response.json({ subjects: await listSubjects(knex, owner) });
  });

  router.get('/:id', async (request, response) => {
    const subject = await findSubject(knex, owner, idOf(request));
    if (!subject) throw new ProblemError('subject-missing');
    response.json({ subject });
  });

  router.get('/:id/coverage', async (request, response) => {
    const subject = await findSubject(knex, owner, idOf(request));
    if (!subject) throw new ProblemError('subject-missing');
    response.json({ coverage: coverageOf(subject, await findServing(knex, owner, subject)) });
  });

  router.patch('/:id', json(), async (request, response) => {
    const id = idOf(request);
    if (!(await putSubject(knex, owner, id, parsePut(request.body))))
      throw new ProblemError('subject-missing');
    await notifyNews(knex, owner, { kind: 'library' });
    response.json({ subject: await findSubject(knex, owner, id) });
  });

  return router;
}

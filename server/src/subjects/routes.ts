import { SUBJECT_ROUTES } from '@miradero/core/contracts';
import { coverageOf } from '@miradero/core/subject';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findServing } from '../database/serving.ts';
import { findSubject, listSubjects, putSubject } from '../database/subjects.ts';
import { ProblemError } from '../requests/problem.ts';
import { type Route, routesFor } from '../requests/route.ts';

/** @throws ProblemError `subject-missing` */
async function subjectOf(knex: Knex, owner: string, id: string) {
  const subject = await findSubject(knex, owner, id);
  if (!subject) throw new ProblemError('subject-missing');
  return subject;
}

/** Everything under `/api/subjects`. */
export const subjectRoutes = (knex: Knex): Route[] =>
  routesFor(SUBJECT_ROUTES, {
    'GET /api/subjects': async ({ owner }) => ({ subjects: await listSubjects(knex, owner) }),

    'GET /api/subjects/:id': async ({ owner, parameters: { id } }) => ({
      subject: await subjectOf(knex, owner, id),
    }),

    async 'GET /api/subjects/:id/coverage'({ owner, parameters: { id } }) {
      const subject = await subjectOf(knex, owner, id);
      return { coverage: coverageOf(subject, await findServing(knex, owner, subject)) };
    },

    async 'PATCH /api/subjects/:id'({ owner, parameters: { id }, body }) {
      if (!(await putSubject(knex, owner, id, body))) throw new ProblemError('subject-missing');
      await notifyNews(knex, owner, { kind: 'library' });
      return { subject: await subjectOf(knex, owner, id) };
    },
  });

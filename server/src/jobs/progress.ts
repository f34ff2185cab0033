import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import type { JobKind } from './define-job.ts';

/** Tells the owner of what a job works on how far it is, 0..1. Telling costs nothing where it was told a moment ago. */
export type TellProgress = (owner: string, share: number) => void;

/** What a job of a kind tells its progress by; a kind that declares none tells nothing. */
export function progressOf<P extends object>(knex: Knex, kind: JobKind<P>, payload: P): TellProgress {
  const { progress } = kind;
  if (!progress) return () => {};
  let toldAtMs = Number.NEGATIVE_INFINITY;
  return (owner, share) => {
    if (performance.now() - toldAtMs < progress.everyMs) return;
    toldAtMs = performance.now();
    const news = { kind: 'progress', job: kind.name, of: progress.of(payload), share } as const;
    // It is only told: the job goes on without.
    notifyNews(knex, owner, news).catch(() => {});
  };
}

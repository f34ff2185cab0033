import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import type { JobKind } from './define-job.ts';

/** Tells the owner of what a job works on how far it is, 0..1. Telling costs nothing where it was told a moment ago. */
export type TellProgress = (owner: string, share: number) => void;

/** 1 is said at the end alone. */
const MOST = 0.99;

/** Runs a job with what it tells its progress by; a kind that declares none tells nothing. One that ends, however, says so. */
export async function withProgress<P extends object>(
  knex: Knex,
  kind: JobKind<P>,
  payload: P,
  run: (tell: TellProgress) => Promise<void>,
): Promise<void> {
  const { progress } = kind;
  if (!progress) return run(() => {});
  let toldAtMs = Number.NEGATIVE_INFINITY;
  let toldTo: string | undefined;
  const tell = (owner: string, share: number) => {
    toldTo = owner;
    toldAtMs = performance.now();
    const news = { kind: 'progress', job: kind.name, of: progress.of(payload), share } as const;
    // It is only told: the job goes on without.
    notifyNews(knex, owner, news).catch(() => {});
  };
  try {
    await run((owner, share) => {
      if (performance.now() - toldAtMs >= progress.everyMs) tell(owner, Math.min(share, MOST));
    });
  } finally {
    if (toldTo !== undefined) tell(toldTo, 1);
  }
}

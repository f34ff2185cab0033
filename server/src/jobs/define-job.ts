import type { ValidateFunction } from 'ajv';
import { compileSchema, explain } from '../requests/validation.ts';
import { isInHaste } from './haste.ts';

/** In haste requests are gathered for this part of the time. */
const HASTE = 0.2;

/** What a kind of background work is told by whoever declares it. */
interface Declaration<P> {
  /** Name of its queue. */
  readonly name: string;
  /** JSON Schema of what one job is given. */
  readonly payload: object;
  /** `once` keeps one job waiting for each key, whoever asks however often; `each` keeps all. */
  readonly policy: 'each' | 'once';
  /** Tries in all, counted over restarts; after the last one it is given up. */
  readonly attempts: number;
  /** One that takes longer counts as lost, seconds. */
  readonly expiresS: number;
  /** So many run beside each other in one job process. */
  readonly atOnce: number;
  /** Requests within so long share one job, seconds. */
  readonly gathersS?: number;
  /** When it runs by itself, as cron has it. */
  readonly cron?: string;
  /** For one that takes long: how often it tells how far it is, and of what. */
  readonly progress?: { readonly everyMs: number; readonly of: (payload: P) => string };
}

/** A kind of background work: everything but what it does, which the job process knows. */
export interface JobKind<P extends object> extends Omit<Declaration<P>, 'payload'> {
  readonly isPayload: (value: unknown) => value is P;
  /** Why a payload is none, after `isPayload` said so. */
  readonly why: () => string;
  /** Jobs with the same key are one while they wait. */
  readonly keyOf: (payload: P) => string;
}

/** Declares a kind of job in one place: name, payload (`P` is the type of its schema), policy, attempts, limits. */
export function defineJob<P extends object>({ payload, ...declared }: Declaration<P>): JobKind<P> {
  const check: ValidateFunction = compileSchema(payload);
  const { gathersS } = declared;
  return {
    ...declared,
    ...(gathersS !== undefined && isInHaste() ? { gathersS: gathersS * HASTE } : {}),
    isPayload: (value): value is P => check(value) as boolean,
    why: () => explain(check.errors),
    keyOf: (given) => JSON.stringify(given),
  };
}

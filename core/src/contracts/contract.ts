import type { ProblemCode } from './problems.ts';

/** A JSON Schema with the type that it stands for; the schema itself is looked at by the server alone. */
export interface Typed<T> {
  readonly schema: object;
  /** Never set: carries the type. */
  readonly type?: T;
}
export const typed = <T>(schema: object): Typed<T> => ({ schema });

/** What is in an answer that is no JSON. */
export interface Bytes {
  readonly mediaTypes: readonly string[];
}

/** `anyone` who reaches the server; `owner`: whoever is known to it, and then for what is theirs alone. */
export type WhoMay = 'anyone' | 'owner';

/** What stands in a path: an id or a digest, and what is said where it names nothing. */
export type Parameter = ProblemCode;

/**
 * One route: what may be asked, by whom, and what is answered. The router, the checks of requests, OpenAPI and the types of
 * the browser's side come from it.
 */
export interface Contract {
  readonly summary: string;
  readonly whoMay: WhoMay;
  /** By the names in the path; each is a UUID, but for `hash`, a SHA-256 in hexadecimal. */
  readonly parameters?: Readonly<Record<string, Parameter>>;
  readonly query?: Typed<unknown>;
  readonly body?: Typed<unknown> & {
    /** By default 100 kB. */
    readonly mostBytes?: number;
  };
  /** A form with files; the route reads it itself. */
  readonly form?: object;
  readonly answer: Typed<unknown> | Bytes | 'nothing';
  /** 200 where nothing is said, 204 for nothing. */
  readonly status?: number;
  /** Beside those that every route may answer with. */
  readonly problems?: readonly ProblemCode[];
}

/** Method and path: "PATCH /api/boards/:id". */
export type RouteName = `${'GET' | 'POST' | 'PATCH'} /api/${string}`;
export type Contracts = Readonly<Record<RouteName, Contract>>;

/** Names of what stands in a path. */
export type ParametersOf<Name> = Name extends `${string}/:${infer One}/${infer Rest}`
  ? One | ParametersOf<`/${Rest}`>
  : Name extends `${string}/:${infer One}`
    ? One
    : never;

type TypeOf<C, Part extends string> = C extends { readonly [P in Part]: Typed<infer T> } ? T : undefined;
export type QueryOf<C> = TypeOf<C, 'query'>;
export type BodyOf<C> = TypeOf<C, 'body'>;
/** Undefined for a route that answers with bytes, or with nothing. */
export type AnswerOf<C> = TypeOf<C, 'answer'>;

export const methodOf = (name: string): string => name.slice(0, name.indexOf(' '));
export const pathOf = (name: string): string => name.slice(name.indexOf(' ') + 1);

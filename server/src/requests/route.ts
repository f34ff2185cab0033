import {
  type AnswerOf,
  type BodyOf,
  type Bytes,
  type Contract,
  type Contracts,
  methodOf,
  type Parameter,
  type ParametersOf,
  pathOf,
  type QueryOf,
  type RouteName,
  type Typed,
} from '@miradero/core/contracts';
import { json, type Request, type RequestHandler, type Response, type Router } from 'express';
import { ProblemError } from './problem.ts';
import { bodyParser, explain, parserOf, queryParser } from './validation.ts';

/** Who asks. */
export interface Asker {
  readonly owner: string;
}
/** Finds who asks; undefined for somebody who is not known here. */
export type FindAsker = (request: Request) => Promise<Asker | undefined>;

/** One request, checked. */
export interface Asked<Name, C> {
  readonly parameters: Readonly<Record<ParametersOf<Name>, string>>;
  readonly query: QueryOf<C>;
  readonly body: BodyOf<C>;
  /** The owner of what may be seen; empty where anyone may ask. */
  readonly owner: string;
  readonly request: Request;
  /** For headers and another status; bytes are written to it. */
  readonly response: Response;
}

/** An answer that is JSON already. */
export class JsonText<T> {
  readonly text: string;
  /** Never set: carries the type. */
  declare readonly type?: T;
  constructor(text: string) {
    this.text = text;
  }
}

type Handler<Name, C> = (
  asked: Asked<Name, C>,
) => Promise<AnswerOf<C> extends undefined ? void : AnswerOf<C> | JsonText<AnswerOf<C>>>;

/** A contract with what keeps it. */
export interface Route {
  readonly name: RouteName;
  readonly contract: Contract;
  readonly handle: (asked: Asked<never, never>) => Promise<unknown>;
}

/** Every route of some contracts with what keeps it: none may be missing. */
export const routesFor = <C extends Contracts>(
  contracts: C,
  handlers: { readonly [Name in keyof C]: Handler<Name, C[Name]> },
): Route[] =>
  Object.entries(contracts).map(([name, contract]) => ({
    name: name as RouteName,
    contract,
    handle: handlers[name as keyof C] as unknown as Route['handle'],
  }));

const isJson = (answer: Contract['answer']): answer is Typed<unknown> =>
  answer !== 'nothing' && (answer as Partial<Bytes>).mediaTypes === undefined;

const FORMS = { id: /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/, hash: /^[0-9a-f]{64}$/ };

/** @throws ProblemError as the contract says for an id that can name nothing */
function parametersFrom(
  given: Readonly<Record<string, string | string[] | undefined>>,
  parameters: Readonly<Record<string, Parameter>>,
): Record<string, string> {
  return Object.fromEntries(
    Object.entries(parameters).map(([name, problem]) => {
      const text = given[name];
      const form = name === 'hash' ? FORMS.hash : FORMS.id;
      if (typeof text !== 'string' || !form.test(text)) throw new ProblemError(problem);
      return [name, text];
    }),
  );
}

/**
 * What a request has to pass before a route sees it, and how its answer is sent.
 *
 * @param checksAnswers - an answer that does not fit its contract is a fault that is answered with 500: for tests
 */
function handlerOf(
  { contract, handle }: Route,
  findAsker: FindAsker,
  checksAnswers: boolean,
): RequestHandler {
  const { parameters = {}, query, body, answer, whoMay } = contract;
  const parseQuery = query && queryParser<never>(query.schema);
  const parseBody = body && bodyParser<never>(body.schema);
  const parseAnswer = checksAnswers && isJson(answer) ? parserOf(answer.schema) : undefined;
  const status = contract.status ?? (answer === 'nothing' ? 204 : 200);
  return async (request, response) => {
    const asker = whoMay === 'anyone' ? { owner: '' } : await findAsker(request);
    if (!asker) throw new ProblemError('not-known');
    const asked = {
      parameters: parametersFrom(request.params, parameters) as never,
      query: parseQuery?.({ ...request.query }) as never,
      body: parseBody?.(request.body) as never,
      ...{ owner: asker.owner, request, response },
    };
    response.status(status);
    const value = await handle(asked);
    if (answer === 'nothing') response.end();
    if (!isJson(answer)) return;
    const text = value instanceof JsonText ? value.text : JSON.stringify(value);
    const unfit = parseAnswer?.(JSON.parse(text));
    if (unfit) throw new TypeError(`${request.method} ${request.path} answers wrongly: ${explain(unfit)}`);
    response.type('json').send(text);
  };
}

/** Puts routes into a router, each behind what its contract asks for. */
export function mountRoutes(
  router: Router,
  routes: readonly Route[],
  findAsker: FindAsker,
  checksAnswers = false,
): void {
  for (const route of routes) {
    const { name, contract } = route;
    const method = methodOf(name).toLowerCase() as 'get' | 'post' | 'patch';
    const reading = contract.body ? [json({ limit: contract.body.mostBytes ?? '100kb' })] : [];
    router[method](pathOf(name), ...reading, handlerOf(route, findAsker, checksAnswers));
  }
}

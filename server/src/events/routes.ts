import { EVENT_ROUTES } from '@miradero/core/contracts';
import {
  EVENT_TOPICS,
  type EventTopic,
  type ServerEvent,
  type Session,
  topicOf,
} from '@miradero/core/schema';
import type { Response } from 'express';
import { listenTo } from '../database/listen.ts';
import { NEWS_CHANNEL } from '../database/notify.ts';
import { ProblemError } from '../requests/problem.ts';
import { type Route, routesFor } from '../requests/route.ts';

/** Keeps proxies and sleeping connections honest. */
const BEAT_MS = 20_000;

interface Listener {
  readonly owner: string;
  readonly topics: ReadonlySet<EventTopic>;
  readonly response: Response;
}

const write = (response: Response, event: ServerEvent): void => {
  response.write(`data: ${JSON.stringify(event)}\n\n`);
};

function topicsFrom(text: string | undefined): Set<EventTopic> {
  if (text === undefined) return new Set(EVENT_TOPICS);
  const named = text.split(',');
  const unknown = named.find((name) => !(EVENT_TOPICS as readonly string[]).includes(name));
  if (unknown !== undefined) throw new ProblemError('malformed', `Unknown topic: ${unknown.slice(0, 40)}`);
  return new Set(named as EventTopic[]);
}

/** `/api/events`: news of every server process that shares the database, as one stream a browser. */
export function eventRoutes(
  databaseUrl: string,
  session: Pick<Session, 'databaseId' | 'build'>,
): { readonly routes: Route[]; stop(): Promise<void> } {
  const listeners = new Set<Listener>();
  const stopListening = listenTo(
    databaseUrl,
    NEWS_CHANNEL,
    (payload) => {
      const news = JSON.parse(payload) as { owner: string; event: ServerEvent };
      const topic = topicOf(news.event);
      for (const { owner: listening, topics, response } of listeners) {
        if (listening === news.owner && (topic === undefined || topics.has(topic)))
          write(response, news.event);
      }
    },
    // Whatever was told while the connection was away is lost: everyone compares what they have.
    () => {
      for (const { response } of listeners) write(response, { kind: 'compare' });
    },
  );
  const beat = setInterval(() => {
    for (const { response } of listeners) response.write(': still here\n\n');
  }, BEAT_MS);

  const routes = routesFor(EVENT_ROUTES, {
    async 'GET /api/events'({ owner, query, request, response }) {
      const listener: Listener = { owner, topics: topicsFrom(query.topics), response };
      response.set({
        'Content-Type': 'text/event-stream',
        'Cache-Control': 'no-store',
        'X-Accel-Buffering': 'no',
      });
      response.flushHeaders();
      write(response, { kind: 'hello', databaseId: session.databaseId, build: session.build });
      listeners.add(listener);
      request.on('close', () => listeners.delete(listener));
    },
  });
  return {
    routes,
    async stop() {
      clearInterval(beat);
      for (const { response } of listeners) response.end();
      await stopListening();
    },
  };
}

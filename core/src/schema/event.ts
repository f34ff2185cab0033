/** What `GET /api/events` sends; each is one `data:` line of JSON. */
export type ServerEvent =
  | { readonly kind: 'hello'; readonly databaseId: string; readonly build: string }
  | { readonly kind: 'board'; readonly board: string; readonly revision: number }
  | { readonly kind: 'board-facts'; readonly board: string }
  | { readonly kind: 'picture'; readonly picture: string }
  /** Many pictures at once, subjects or tags altered. */
  | { readonly kind: 'library' }
  /** The owner's settings altered. */
  | { readonly kind: 'settings' }
  /** How far a long job is, 0..1, and what it works on (a picture); 1 when it ended, however it did. */
  | { readonly kind: 'progress'; readonly job: string; readonly of: string; readonly share: number }
  /** Something that is taken out is further, or made. */
  | { readonly kind: 'export'; readonly export: string }
  | { readonly kind: 'compare' };

export const EVENT_TOPICS = ['boards', 'pictures'] as const;
export type EventTopic = (typeof EVENT_TOPICS)[number];

export const topicOf = (event: ServerEvent): EventTopic | undefined =>
  event.kind === 'picture' || event.kind === 'library' || event.kind === 'progress'
    ? 'pictures'
    : event.kind === 'board' || event.kind === 'board-facts' || event.kind === 'export'
      ? 'boards'
      : undefined;

/** Answer of `GET /api/session`: who is working, and which database holds the work. */
export interface Session {
  readonly databaseId: string;
  readonly owner: string;
  /** Names the interface that this server serves; a window that was loaded from another one is out of date. */
  readonly build: string;
}

/** In it every write of a browser names the database that it is meant for. */
export const DATABASE_HEADER = 'x-miradero-database';

/** RFC 9457 problem document. `code` is stable; `title` says it in the user's words. */
export interface Problem {
  readonly type: string;
  readonly status: number;
  readonly code: string;
  readonly title: string;
  readonly detail?: string;
}

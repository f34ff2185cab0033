import { applyChange } from '@miradero/core/board';
import type { Board, Change, ChangeOutcome, Item, LoggedChange, Picture } from '@miradero/core/schema';
import { vi } from 'vitest';

export const problem = (status: number, code: string): Response =>
  Response.json({ type: '', status, code, title: `It is ${code}.` }, { status });

/** Holds answers back until a test lets them go. */
export class Gate {
  #open: (() => void)[] = [];
  isShut = false;

  async pass(): Promise<void> {
    if (!this.isShut) return;
    await new Promise<void>((resolve) => this.#open.push(resolve));
  }

  /** Lets one answer go, the oldest or that of an index. */
  release(index = 0): void {
    this.#open.splice(index, 1)[0]?.();
  }

  get waiting(): number {
    return this.#open.length;
  }

  open(): void {
    this.isShut = false;
    for (const go of this.#open.splice(0)) go();
  }
}

/** A server of one board as this browser sees it, without a network; a test decides how it behaves. */
export class FakeServer {
  board: Board;
  items = new Map<string, Item>();
  log: LoggedChange[] = [];
  readonly pictures = new Map<string, Picture>();
  readonly asked: string[] = [];
  /** Answers instead, where it gives one. */
  intercept: (method: string, path: string, body: unknown) => Response | undefined = () => undefined;
  /** Answers to questions, not to writes, wait here. */
  readonly gate = new Gate();

  constructor(id: string) {
    this.board = {
      ...{ id, name: 'Ferry', surround: 5, putAway: false, revision: 0, createdAt: '', changedAt: '' },
      ...{ pictures: 0, preview: null, forWhom: '', question: '', due: null, sheet: null },
    };
    vi.stubGlobal('fetch', (path: string, init: RequestInit = {}) => this.#fetch(path, init));
  }

  /** What another browser does. */
  accept(change: Change): number {
    const known = this.log.find((entry) => entry.change.id === change.id);
    if (known) return known.revision;
    const revision = this.log.length + 1;
    applyChange(this.items, change);
    this.log.push({ revision, change });
    this.board = { ...this.board, revision };
    return revision;
  }

  /** A backup put back: the first so many changes are all that is known. */
  putBack(revision: number): void {
    const log = this.log.slice(0, revision);
    this.items = new Map();
    this.log = [];
    this.board = { ...this.board, revision: 0 };
    for (const { change } of log) this.accept(change);
  }

  async #fetch(path: string, { method = 'GET', body }: RequestInit): Promise<Response> {
    const given = typeof body === 'string' ? JSON.parse(body) : undefined;
    this.asked.push(`${method} ${path}`);
    // As with a real server: the answer is made when the question arrives, and may be slow on its way back.
    const answer = this.intercept(method, path, given) ?? this.#answer(method, path, given);
    if (method === 'GET') await this.gate.pass();
    return answer;
  }

  #answer(method: string, path: string, body: unknown): Response {
    const { pathname, searchParams } = new URL(path, 'http://fake');
    const own = `/api/boards/${this.board.id}`;
    if (pathname === '/api/settings') return Response.json({ settings: {} });
    if (pathname === '/api/boards') return Response.json({ boards: [this.board] });
    if (pathname === own && method === 'PATCH') {
      this.board = { ...this.board, ...(body as Partial<Board>) };
      return Response.json({ board: this.board });
    }
    if (pathname === own)
      return Response.json({
        ...{ board: this.board, items: [...this.items.values()], revision: this.log.length },
        lastChange: this.log.at(-1)?.change.id ?? null,
      });
    if (pathname === `${own}/changes` && method === 'POST') {
      const { changes } = body as { changes: Change[] };
      const outcomes = changes.map(
        (change): ChangeOutcome => ({ id: change.id, revision: this.accept(change) }),
      );
      return Response.json({ outcomes });
    }
    if (pathname === `${own}/changes`) {
      const since = Number(searchParams.get('since'));
      const last = searchParams.get('last');
      const isOther = last !== null && since > 0 && this.log[since - 1]?.change.id !== last;
      if (since > this.log.length || isOther) return problem(409, 'ahead');
      return Response.json({ changes: this.log.slice(since), revision: this.log.length });
    }
    if (pathname === '/api/pictures') {
      const ids = searchParams.get('ids')?.split(',') ?? [...this.pictures.keys()];
      return Response.json({ pictures: ids.flatMap((id) => this.pictures.get(id) ?? []) });
    }
    const picture = this.pictures.get(pathname.slice('/api/pictures/'.length));
    if (picture && method === 'PATCH') {
      this.pictures.set(picture.id, { ...picture, ...(body as Partial<Picture>) });
      return Response.json({ picture: this.pictures.get(picture.id) });
    }
    return problem(404, 'not-found');
  }
}

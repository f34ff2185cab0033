import type { Change, Item, LoggedChange } from '../schema/index.ts';
import { applyChange, applyOperation, type BoardState, itemIdOf } from './state.ts';

/** How many settled change ids are remembered, to recognise news of them that arrive late. */
const REMEMBERED = 10_000;

/**
 * One window's copy of a board. What it shows is always the confirmed state at a revision with this browser's own
 * unconfirmed changes applied on top, in the order in which they were made; nothing else decides. News may arrive
 * late, twice or out of order.
 *
 * Every method returns the ids of the items whose shown state may have altered.
 */
export class Replica {
  #confirmed: Map<string, Item>;
  #revision: number;
  #lastChange: string | null;
  #pending: Change[] = [];
  #shown: Map<string, Item>;
  /** Log entries that came before their predecessors. */
  readonly #early = new Map<number, Change>();
  /** Accepted revision, or null for refused. */
  readonly #settled = new Map<string, number | null>();

  constructor(revision: number, items: Iterable<Item>, lastChange: string | null = null) {
    this.#revision = revision;
    this.#lastChange = lastChange;
    this.#confirmed = new Map([...items].map((item) => [item.id, item]));
    this.#shown = new Map(this.#confirmed);
  }

  /** Revision of the confirmed state. */
  get revision(): number {
    return this.#revision;
  }

  /** Id of the change that led to that revision, where it is known. */
  get lastChange(): string | null {
    return this.#lastChange;
  }

  get shown(): BoardState {
    return this.#shown;
  }

  get pending(): readonly Change[] {
    return this.#pending;
  }

  /** True when the log has a hole below something already heard: fetch the changes since `revision`. */
  get isBehind(): boolean {
    if (this.#early.size > 0) return true;
    for (const change of this.#pending) {
      const revision = this.#settled.get(change.id);
      if (typeof revision === 'number' && revision > this.#revision) return true;
    }
    return false;
  }

  /** Takes a change made in this browser. One that is known already is ignored. */
  add(change: Change): Set<string> {
    if (this.#settled.has(change.id) || this.#pending.some((known) => known.id === change.id))
      return new Set();
    this.#pending.push(change);
    return applyChange(this.#shown, change);
  }

  /**
   * Hears that a change of this browser was joined into an earlier one, before any of it was sent: what is shown stays.
   *
   * @returns false when the earlier one is settled here already, without what was joined to it: the confirmed state may be
   *   wrong, and has to be `reset`
   */
  join(into: Change, gone: string): boolean {
    this.#pending = this.#pending.filter((change) => change.id !== gone);
    this.#settle(gone, null);
    const index = this.#pending.findIndex((change) => change.id === into.id);
    if (index < 0) return false;
    this.#pending[index] = into;
    return true;
  }

  /** Takes entries of the server's log, in any order, known ones included. */
  receive(entries: Iterable<LoggedChange>): Set<string> {
    for (const { revision, change } of entries)
      if (revision > this.#revision) this.#early.set(revision, change);
    const touched = new Set<string>();
    for (let next = this.#early.get(this.#revision + 1); next; next = this.#early.get(this.#revision + 1)) {
      this.#revision += 1;
      this.#early.delete(this.#revision);
      for (const id of applyChange(this.#confirmed, next)) touched.add(id);
      this.#lastChange = next.id;
      this.#settle(next.id, this.#revision);
      this.#dropPending(next.id, touched);
    }
    return this.#reshow(touched);
  }

  /** Hears that the server accepted a change as `revision`. It stays on top until the confirmed state has come so far. */
  acknowledge(changeId: string, revision: number): Set<string> {
    this.#settle(changeId, revision);
    const touched = new Set<string>();
    if (revision <= this.#revision) {
      this.#dropPending(changeId, touched);
      return this.#reshow(touched);
    }
    const own = this.#pending.find((change) => change.id === changeId);
    return own === undefined ? touched : this.receive([{ revision, change: own }]);
  }

  /** Hears that the server refused a change: it is taken off again, later ones stay. */
  refuse(changeId: string): Set<string> {
    this.#settle(changeId, null);
    const touched = new Set<string>();
    this.#dropPending(changeId, touched);
    return this.#reshow(touched);
  }

  /** Replaces the confirmed state (after a gap too large, or when the server's database was put back to an earlier one). */
  reset(revision: number, items: Iterable<Item>, lastChange: string | null = null): Set<string> {
    const touched = new Set([...this.#shown.keys()]);
    this.#revision = revision;
    this.#lastChange = lastChange;
    this.#confirmed = new Map([...items].map((item) => [item.id, item]));
    for (const id of this.#confirmed.keys()) touched.add(id);
    this.#early.clear();
    // What was acknowledged is not sent again: it is in what the server tells, now or by the log from here on, or gone.
    this.#pending = this.#pending.filter((change) => typeof this.#settled.get(change.id) !== 'number');
    this.#settled.clear();
    return this.#reshow(touched);
  }

  #settle(changeId: string, revision: number | null): void {
    this.#settled.set(changeId, revision);
    if (this.#settled.size > REMEMBERED) {
      for (const oldest of this.#settled.keys()) {
        this.#settled.delete(oldest);
        if (this.#settled.size <= REMEMBERED * 0.9) break;
      }
    }
  }

  #dropPending(changeId: string, touched: Set<string>): void {
    const index = this.#pending.findIndex((change) => change.id === changeId);
    if (index < 0) return;
    const [dropped] = this.#pending.splice(index, 1);
    for (const operation of dropped!.operations) touched.add(itemIdOf(operation));
  }

  /** Recomputes what is shown of the touched items: confirmed, then every pending operation on them, in order. */
  #reshow(touched: Set<string>): Set<string> {
    if (touched.size === 0) return touched;
    const fresh = new Map<string, Item | undefined>();
    for (const id of touched) fresh.set(id, this.#confirmed.get(id));
    for (const change of this.#pending) {
      for (const operation of change.operations) {
        const id = itemIdOf(operation);
        if (fresh.has(id)) fresh.set(id, applyOperation(fresh.get(id), operation));
      }
    }
    for (const [id, item] of fresh) {
      if (item === undefined) this.#shown.delete(id);
      else this.#shown.set(id, item);
    }
    return touched;
  }
}

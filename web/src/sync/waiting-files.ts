import type { BrowserDatabase, WaitingFile } from './browser-database.ts';

/**
 * Which files of this browser wait to be sent, without reading all of them at each look: three hundred that come in are
 * looked for six hundred times.
 */
export class WaitingFiles {
  readonly #database: BrowserDatabase;
  /** Bytes by id, in the order in which they became known. */
  readonly #sizes = new Map<string, number>();
  readonly #news = new Set<string>();
  #isRead = false;

  constructor(database: BrowserDatabase) {
    this.#database = database;
  }

  /** Bytes of each that is known to wait. */
  get sizes(): ReadonlyMap<string, number> {
    return this.#sizes;
  }

  /** A file was kept. */
  add(id: string): void {
    this.#news.add(id);
  }

  /** One arrived, or is not to be sent again. */
  drop(id: string): void {
    this.#sizes.delete(id);
  }

  /** Anything may have altered: all are read once more. */
  forget(): void {
    this.#isRead = false;
  }

  /** At most `count` of those that are free, oldest news first. @throws what the database throws when it is closing */
  async next(count: number, isFree: (id: string) => boolean): Promise<WaitingFile[]> {
    await this.#learn();
    const next: WaitingFile[] = [];
    for (const id of this.#sizes.keys()) {
      if (next.length >= count) break;
      if (!isFree(id)) continue;
      const file = await this.#waiting(id);
      if (file) next.push(file);
      else this.#sizes.delete(id);
    }
    return next;
  }

  async #learn(): Promise<void> {
    if (!this.#isRead) {
      // What is heard while it is read counts afterwards.
      this.#isRead = true;
      await this.#readAll().catch((error) => {
        this.#isRead = false;
        throw error;
      });
    }
    for (const id of this.#news) {
      this.#news.delete(id);
      const file = await this.#waiting(id);
      if (file) this.#sizes.set(id, file.bytes.size);
    }
  }

  async #readAll(): Promise<void> {
    this.#sizes.clear();
    let cursor = await this.#database.transaction('files').store.openCursor();
    while (cursor) {
      const { id, bytes, refusal } = cursor.value;
      if (refusal === undefined) this.#sizes.set(id, bytes.size);
      cursor = await cursor.continue();
    }
  }

  async #waiting(id: string): Promise<WaitingFile | undefined> {
    const file = await this.#database.get('files', id);
    return file?.refusal === undefined ? file : undefined;
  }
}

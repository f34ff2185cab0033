import type { Picture } from '@miradero/core/schema';
import type { BrowserDatabase, WaitingFile } from './browser-database.ts';
import type { Channel } from './channel.ts';
import { askServer } from './http.ts';

/** Ids of one request; its address must stay short. */
const ASK_AT_ONCE = 80;
const GATHER_MS = 40;

/** What is known of a picture here: the server's facts, this browser's waiting file, or both. */
export interface ShelvedPicture {
  readonly id: string;
  readonly name: string;
  readonly picture: Picture | undefined;
  readonly file: WaitingFile | undefined;
}

type Listener = (ids: ReadonlySet<string>) => void;

/** Facts of the pictures that this window shows. Asks the server for what it does not know, and again at news. */
export class PictureShelf {
  readonly #database: BrowserDatabase;
  readonly #pictures = new Map<string, Picture>();
  readonly #files = new Map<string, WaitingFile>();
  /** Names given here that the server may not know yet. */
  readonly #names = new Map<string, string>();
  readonly #listeners = new Set<Listener>();
  readonly #wanted = new Set<string>();
  #timer: ReturnType<typeof setTimeout> | undefined;
  #version = 0;

  constructor(database: BrowserDatabase, channel: Channel) {
    this.#database = database;
    channel.subscribe((message) => {
      if (message.kind === 'event' && message.event.kind === 'picture') this.want([message.event.picture]);
      if (message.kind === 'event' && ['hello', 'compare'].includes(message.event.kind)) {
        this.want([...this.#pictures.values()].filter((p) => p.state === 'arriving').map((p) => p.id));
        this.want([...this.#files.keys()]);
      }
      if (message.kind === 'file-kept') void this.#readFile(message.picture);
      if (message.kind === 'file-settled') this.want([message.picture]);
    });
  }

  /** Grows with everything that is learned. */
  get version(): number {
    return this.#version;
  }

  get(id: string): ShelvedPicture | undefined {
    const picture = this.#pictures.get(id);
    const file = this.#files.get(id);
    const name = this.#names.get(id) ?? picture?.name ?? file?.name;
    return name === undefined ? undefined : { id, name, picture, file };
  }

  /** Names of everything that is known here. */
  names(): string[] {
    return [...new Set([...this.#pictures.keys(), ...this.#files.keys()])].flatMap(
      (id) => this.get(id)?.name ?? [],
    );
  }

  /** @returns a function that ends it */
  subscribe(listener: Listener): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  /** Everything on a board at once; waiting files of this browser, too. */
  async loadBoard(board: string): Promise<void> {
    const [{ pictures }, files] = await Promise.all([
      askServer<{ pictures: Picture[] }>(`/api/pictures?board=${board}`),
      this.#database.getAll('files'),
    ]);
    for (const file of files) this.#files.set(file.id, file);
    this.#put(
      pictures,
      files.map((file) => file.id),
    );
  }

  /** Shows a file before it is kept or sent. */
  showFile(file: WaitingFile): void {
    this.#files.set(file.id, file);
    this.#tell([file.id]);
  }

  /** What the server told about a picture just now. */
  learn(picture: Picture): void {
    this.#put([picture], []);
  }

  showName(id: string, name: string): void {
    this.#names.set(id, name);
    this.#tell([id]);
  }

  /** Asks the server, soon and together with others. */
  want(ids: Iterable<string>): void {
    for (const id of ids) this.#wanted.add(id);
    if (this.#wanted.size === 0) return;
    this.#timer ??= setTimeout(() => {
      this.#timer = undefined;
      void this.#ask();
    }, GATHER_MS);
  }

  async #ask(): Promise<void> {
    const ids = [...this.#wanted].slice(0, ASK_AT_ONCE);
    for (const id of ids) this.#wanted.delete(id);
    try {
      const { pictures } = await askServer<{ pictures: Picture[] }>(`/api/pictures?ids=${ids.join(',')}`);
      // A name that was on its way has arrived, or another window's has: the server's word counts again.
      for (const { id, name } of pictures) if (this.#names.get(id) === name) this.#names.delete(id);
      this.#put(pictures, []);
    } catch {
      // The server is away; its next hello asks again for what is not complete.
    }
    if (this.#wanted.size > 0) this.want([]);
  }

  async #readFile(id: string): Promise<void> {
    if (this.#files.has(id)) return;
    const file = await this.#database.get('files', id);
    if (file === undefined) return;
    this.#files.set(id, file);
    this.#tell([id]);
  }

  #put(pictures: readonly Picture[], alsoTell: readonly string[]): void {
    for (const picture of pictures) {
      this.#pictures.set(picture.id, picture);
      // Levels are there: the file's bytes are no longer needed to show it.
      if (picture.state === 'ready') this.#files.delete(picture.id);
    }
    this.#tell([...pictures.map((picture) => picture.id), ...alsoTell]);
  }

  #tell(ids: Iterable<string>): void {
    const set = new Set(ids);
    if (set.size === 0) return;
    this.#version += 1;
    for (const listener of this.#listeners) listener(set);
  }
}

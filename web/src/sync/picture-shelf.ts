import type { PatchPicture, Picture } from '@miradero/core/schema';
import { createNanoEvents } from 'nanoevents';
import type { BrowserDatabase, WaitingFile } from './browser-database.ts';
import type { Channel } from './channel.ts';
import { ask } from './http.ts';
import type { OwnPatches } from './own-patches.ts';
import { patched, patchedBy } from './patched.ts';

/** Ids of one request; its address must stay short. */
const ASK_AT_ONCE = 80;
const GATHER_MS = 40;
/** After failures one after the other. */
const AGAIN_MS = [500, 1_000, 2_000, 4_000, 8_000];

const PICTURE_PATH = /^\/api\/pictures\/([0-9a-f-]{36})$/;
export const pathOfPicture = (id: string): string => `/api/pictures/${id}`;

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
  /** Number of the question whose answer is shown of a picture. */
  readonly #askedAs = new Map<string, number>();
  readonly #events = createNanoEvents<{ learned: Listener }>();
  readonly #wanted = new Set<string>();
  #timer: ReturnType<typeof setTimeout> | undefined;
  #version = 0;
  #questions = 0;
  #failures = 0;
  readonly #patches: OwnPatches;

  constructor(database: BrowserDatabase, patches: OwnPatches, channel: Channel) {
    this.#database = database;
    this.#patches = patches;
    patches.subscribe((path, settled) => {
      const id = PICTURE_PATH.exec(path)?.[1];
      if (id === undefined) return;
      if (settled?.isTaken) this.#confirm(id, settled.body);
      this.#tell([id]);
    });
    channel.subscribe((message) => {
      if (message.kind === 'event' && message.event.kind === 'picture') this.want([message.event.picture]);
      if (message.kind === 'event' && ['hello', 'compare'].includes(message.event.kind)) {
        this.#failures = 0;
        clearTimeout(this.#timer);
        this.#timer = undefined;
        this.want([...this.#pictures.values()].filter((p) => p.state === 'arriving').map((p) => p.id));
        this.want([...this.#files.keys()]);
        this.want(this.#wanted);
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
    const confirmed = this.#pictures.get(id);
    const file = this.#files.get(id);
    const own = this.#patches.bodiesOf(pathOfPicture(id));
    const picture = confirmed && own.length > 0 ? patchedBy(confirmed, own) : confirmed;
    const given = own.flatMap((body) => (body as PatchPicture).name ?? []).at(-1);
    const name = picture?.name ?? given ?? file?.name;
    return name === undefined ? undefined : { id, name, picture, file };
  }

  /** Names of everything that is known here. */
  names(): string[] {
    return [...new Set([...this.#pictures.keys(), ...this.#files.keys()])].flatMap(
      (id) => this.get(id)?.name ?? [],
    );
  }

  /** Called with the pictures of which something was learned. @returns a function that ends it */
  subscribe(listener: Listener): () => void {
    return this.#events.on('learned', listener);
  }

  /** Everything on a board at once; waiting files of this browser, too. */
  async loadBoard(board: string): Promise<void> {
    this.#questions += 1;
    const question = this.#questions;
    const [{ pictures }, files] = await Promise.all([
      ask('GET /api/pictures', { query: { board } }),
      this.#database.getAll('files'),
    ]);
    for (const file of files) this.#files.set(file.id, file);
    this.#put(
      pictures,
      question,
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
    this.#questions += 1;
    this.#put([picture], this.#questions, []);
  }

  /** Asks the server, soon and together with others. */
  want(ids: Iterable<string>): void {
    for (const id of ids) this.#wanted.add(id);
    if (this.#wanted.size === 0) return;
    this.#timer ??= setTimeout(
      () => {
        this.#timer = undefined;
        void this.#ask();
      },
      this.#failures === 0 ? GATHER_MS : AGAIN_MS[Math.min(this.#failures, AGAIN_MS.length) - 1],
    );
  }

  async #ask(): Promise<void> {
    const ids = [...this.#wanted].slice(0, ASK_AT_ONCE);
    for (const id of ids) this.#wanted.delete(id);
    this.#questions += 1;
    const question = this.#questions;
    try {
      const { pictures } = await ask('GET /api/pictures', { query: { ids: ids.join(',') } });
      this.#failures = 0;
      this.#put(pictures, question, []);
    } catch {
      // Asked again by itself, ever later; the server's next hello makes it soon again.
      this.#failures += 1;
      for (const id of ids) this.#wanted.add(id);
    }
    if (this.#wanted.size > 0) this.want([]);
  }

  /** The server took what was on its way: it counts as known, and older answers do not. */
  #confirm(id: string, body: object): void {
    const picture = this.#pictures.get(id);
    this.#questions += 1;
    this.#askedAs.set(id, this.#questions);
    if (picture) this.#pictures.set(id, patched(picture, body as PatchPicture));
    this.want([id]);
  }

  async #readFile(id: string): Promise<void> {
    if (this.#files.has(id)) return;
    const file = await this.#database.get('files', id);
    if (file === undefined) return;
    this.#files.set(id, file);
    this.#tell([id]);
  }

  /** @param question - its number; answers may overtake each other */
  #put(pictures: readonly Picture[], question: number, alsoTell: readonly string[]): void {
    for (const picture of pictures) {
      if (question < (this.#askedAs.get(picture.id) ?? 0)) continue;
      this.#askedAs.set(picture.id, question);
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
    this.#events.emit('learned', set);
  }
}

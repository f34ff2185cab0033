import type { ViewerBoard } from '@miradero/core/board-file';
import type { Affine } from '@miradero/core/geometry';
import { BoardCanvas, type PressedItem } from './board-canvas.ts';
import { element, listenToHead, listWords } from './page.ts';

/**
 * The page of somebody who looks at a board by a link: looks, lays pictures on yes or no, leaves remarks under a name. It works
 * over plain HTTP, which is no secure context: nothing here needs one.
 */
type Choice = 'yes' | 'no';
interface Said {
  readonly name: string;
  readonly sentAt: string | null;
  readonly choices: Readonly<Record<string, Choice>>;
  readonly remarks: readonly { readonly id: string; readonly item: string | null; readonly text: string }[];
}
type LookedBoard = ViewerBoard & {
  readonly withOriginals: boolean;
  /** It can be taken whole, as a file. */
  readonly givesFile: boolean;
  readonly tasks: string;
};
/** The board as a file, that the other computer puts together. */
interface FileToTake {
  readonly id: string;
  readonly state: 'waiting' | 'working' | 'done' | 'failed';
}
const ASK_FILE_MS = 1_000;

const HERE = location.pathname.replace(/\/$/, '');
const TOKEN = `miradero-guest-${HERE}`;
/** A browser may refuse to remember anything: then this page does. */
let tokenHere = '';
const token = {
  get: () => {
    try {
      return localStorage.getItem(TOKEN) ?? tokenHere;
    } catch {
      return tokenHere;
    }
  },
  set: (value: string) => {
    tokenHere = value;
    try {
      localStorage.setItem(TOKEN, value);
    } catch {
      // This page remembers it.
    }
  },
};

/** @throws Error in words for the person */
async function ask<T>(path: string, body?: object): Promise<T> {
  let answer: Response;
  try {
    answer = await fetch(`${HERE}${path}`, {
      method: body ? 'POST' : 'GET',
      headers: {
        ...(body ? { 'Content-Type': 'application/json' } : {}),
        ...(token.get() ? { 'X-Guest': token.get() } : {}),
      },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
  } catch {
    throw new Error('The other computer does not answer. What you typed is still here; try again.');
  }
  const told = (await answer.json().catch(() => ({}))) as T & { title?: string };
  if (!answer.ok) throw new Error(told.title ?? `It answered ${answer.status}.`);
  return told;
}

const say = (words: string, isTrouble = false) => {
  const line = element('told');
  line.textContent = words;
  line.className = isTrouble ? 'trouble' : '';
};

/** Asks for the board as a file, waits until it is put together, and fetches it. */
async function takeFile(): Promise<void> {
  const [button, line] = [element<HTMLButtonElement>('take'), element('making')];
  button.disabled = true;
  try {
    line.textContent = 'It is put together; that takes a moment.';
    let file = await ask<FileToTake>('/file', {});
    while (file.state === 'waiting' || file.state === 'working') {
      await new Promise((resolve) => setTimeout(resolve, ASK_FILE_MS));
      file = await ask<FileToTake>(`/file/${file.id}`);
    }
    if (file.state === 'failed') throw new Error('It could not be put together. Try again later.');
    location.href = `${HERE}/file/${file.id}/bytes`;
    line.textContent = 'It comes with your downloads. Read into a Miradero, it is a board of your own.';
  } catch (error) {
    line.textContent = (error as Error).message;
  } finally {
    button.disabled = false;
  }
}

class Looking {
  readonly #board: LookedBoard;
  readonly #canvas: BoardCanvas;
  #said: Said = { name: '', sentAt: null, choices: {}, remarks: [] };
  #pressed: PressedItem | undefined;
  #last: Promise<void> = Promise.resolve();

  constructor(board: LookedBoard) {
    this.#board = board;
    const canvas = element<HTMLCanvasElement>('board');
    this.#canvas = new BoardCanvas(board, canvas, (pressed) => this.#press(pressed));
    this.#canvas.drawAbove = (context, { id, width, height }, frame) =>
      drawChoice(context, this.#said.choices[id], frame, { width, height });
    listenToHead(this.#canvas);
    canvas.addEventListener('keydown', ({ key, repeat, ctrlKey, metaKey, altKey }) => {
      const choice = ({ y: 'yes', n: 'no' } as const)[key.toLowerCase()];
      if (choice && !repeat && !ctrlKey && !metaKey && !altKey) void this.#choose(choice);
    });
    for (const choice of ['yes', 'no'] as const)
      element(choice).addEventListener('click', () => void this.#choose(choice));
    element('enter').addEventListener('submit', (event) => {
      event.preventDefault();
      void this.#enter();
    });
    element('remark').addEventListener('submit', (event) => {
      event.preventDefault();
      void this.#remark();
    });
    element('send').addEventListener('click', () => void this.#send());
  }

  async begin(): Promise<void> {
    if (token.get()) await this.#learn().catch(() => token.set(''));
    this.#show();
  }

  async #learn(): Promise<void> {
    this.#said = await ask<Said>('/said');
  }

  /** One thing after the other, however fast they are asked for: each knows what came of the one before. */
  #try(act: () => Promise<string | undefined>): Promise<void> {
    this.#last = this.#last.then(async () => {
      try {
        const words = await act();
        if (words === undefined) return;
        say(words);
        await this.#learn();
      } catch (error) {
        say((error as Error).message, true);
      }
      this.#show();
    });
    return this.#last;
  }

  #enter(): Promise<void> {
    return this.#try(async () => {
      const { token: given } = await ask<{ token: string }>('/guests', {
        name: element<HTMLInputElement>('guest').value,
      });
      token.set(given);
      return 'Press a picture to lay it on yes or no, or to say something about it.';
    });
  }

  #choose(choice: Choice): Promise<void> {
    const id = this.#pressed?.item.id;
    if (id === undefined || this.#said.name === '') return Promise.resolve();
    return this.#try(async () => {
      const isTakenBack = this.#said.choices[id] === choice;
      await ask('/choices', { item: id, choice: isTakenBack ? null : choice });
      return isTakenBack ? 'Laid on neither.' : `Laid on ${choice}.`;
    });
  }

  #remark(): Promise<void> {
    const field = element<HTMLTextAreaElement>('text');
    const item = this.#pressed?.item.id ?? null;
    return this.#try(async () => {
      // The same pressed twice is one remark.
      const text = field.value;
      if (text.trim() === '') return undefined;
      await ask('/remarks', { item, text });
      if (field.value === text) field.value = '';
      return 'Your remark is kept. It goes along when you hand in.';
    });
  }

  #send(): Promise<void> {
    return this.#try(async () => {
      await ask('/sent', {});
      return 'Handed in. You can go on, and hand in again.';
    });
  }

  #press(pressed: PressedItem | undefined): void {
    this.#pressed = pressed?.picture ? pressed : undefined;
    this.#show();
  }

  #show(): void {
    const isNamed = this.#said.name !== '';
    const picture = this.#pressed?.picture;
    const id = this.#pressed?.item.id;
    element('enter').hidden = isNamed;
    element('saying').hidden = !isNamed;
    element('who').textContent = this.#said.name;
    element('picture').textContent = picture?.name ?? 'The board as a whole';
    element('credit').textContent = picture?.credit ?? '';
    element('choices').hidden = !picture;
    element('fetch').hidden = !picture || !this.#board.withOriginals;
    if (picture)
      element<HTMLAnchorElement>('original').href = `${HERE}/originals/${this.#pressed?.pictureId}`;
    for (const choice of ['yes', 'no'] as const)
      element(choice).setAttribute(
        'aria-pressed',
        String(id !== undefined && this.#said.choices[id] === choice),
      );
    const list = element('remarks');
    list.replaceChildren(
      ...this.#said.remarks
        .filter(({ item }) => item === (id ?? null))
        .map(({ text }) => {
          const entry = document.createElement('li');
          entry.textContent = text;
          return entry;
        }),
    );
    const chosen = Object.values(this.#said.choices);
    const remarks = this.#said.remarks.length;
    const yes = chosen.filter((one) => one === 'yes').length;
    element('count').textContent =
      `${yes} yes, ${chosen.length - yes} no, ${remarks} ${remarks === 1 ? 'remark' : 'remarks'}`;
    this.#canvas.redraw();
  }
}

/** What was laid on yes stands in a frame; what was laid on no is struck through. */
function drawChoice(
  context: CanvasRenderingContext2D,
  choice: Choice | undefined,
  frame: Affine,
  { width, height }: { width: number; height: number },
): void {
  if (choice === undefined) return;
  context.setTransform(...frame);
  const scale = Math.hypot(frame[0], frame[1]);
  for (const [line, colour] of [
    [5, '#1d1d1b'],
    [2.5, '#fafaf9'],
  ] as const) {
    context.lineWidth = line / scale;
    context.strokeStyle = colour;
    context.beginPath();
    if (choice === 'yes') context.rect(0, 0, width, height);
    else {
      context.moveTo(0, height);
      context.lineTo(width, 0);
    }
    context.stroke();
  }
}

async function begin(): Promise<void> {
  try {
    const board = await ask<LookedBoard>('/board');
    element('name').textContent = board.name;
    document.title = board.name;
    element('tasks').textContent = board.tasks;
    element('tasks').hidden = board.tasks === '';
    element('give').hidden = !board.givesFile;
    element('take').addEventListener('click', () => void takeFile());
    listWords(board, element('words'));
    await new Looking(board).begin();
  } catch (error) {
    say((error as Error).message, true);
  }
}

void begin();

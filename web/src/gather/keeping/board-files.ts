import type { BoardFileReading, ReceivedBoardFile } from '@miradero/core/schema';
import { createStore } from '../../state/index.ts';
import { ask, databaseHeaders } from '../../sync/index.ts';

/** A board file on its way in, step by step. */
export type IncomingBoard =
  | { readonly step: 'sending'; readonly fileName: string; readonly share: number }
  | { readonly step: 'asking'; readonly file: ReceivedBoardFile }
  | { readonly step: 'reading'; readonly file: ReceivedBoardFile }
  | { readonly step: 'done'; readonly file: ReceivedBoardFile; readonly result: Result }
  | { readonly step: 'failed'; readonly why: string };

type Result = NonNullable<BoardFileReading['result']>;

const LOOK_MS = 400;
/** The server may be away for a moment while it reads. */
const MOST_FAILURES = 40;

interface Incoming {
  readonly now: IncomingBoard | undefined;
  /** Those that came after it; each is asked about in its turn. */
  readonly waiting: readonly File[];
}
export const incomingBoard = createStore<Incoming>(() => ({ now: undefined, waiting: [] }));
const tell = (now: IncomingBoard | undefined) => incomingBoard.setState({ now });
/** Of one that is read: unless another one is in front by now. */
function tellOf({ id }: ReceivedBoardFile, next: IncomingBoard): void {
  const { now } = incomingBoard.getState();
  if (!now || ('file' in now && now.file.id === id)) tell(next);
}

let sending: XMLHttpRequest | undefined;
let inFront: File | undefined;

/** Sends a file, telling how far it is: it may have gigabytes. @throws Error in words for the person */
function send(file: File): Promise<ReceivedBoardFile> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    sending = request;
    request.open('POST', '/api/board-files');
    for (const [name, value] of Object.entries(databaseHeaders())) request.setRequestHeader(name, value);
    request.responseType = 'json';
    request.upload.onprogress = ({ loaded, total }) =>
      tell({ step: 'sending', fileName: file.name, share: total > 0 ? loaded / total : 0 });
    request.onload = () => {
      const answer = request.response as {
        boardFile?: ReceivedBoardFile;
        title?: string;
        detail?: string;
      } | null;
      if (request.status === 201 && answer?.boardFile) resolve(answer.boardFile);
      else
        reject(
          new Error([answer?.title, answer?.detail].filter(Boolean).join(' ') || 'The server failed at it.'),
        );
    };
    request.onerror = () =>
      reject(new Error('The server cannot be reached. The file stays as it is: hand it in again later.'));
    request.onabort = () => reject(new DOMException('stopped', 'AbortError'));
    const form = new FormData();
    form.append('file', file, file.name);
    request.send(form);
  });
}

/** Hands a board file in and asks what shall become of it: one after the other. */
export async function takeBoardFile(file: File): Promise<void> {
  const { now, waiting } = incomingBoard.getState();
  if (now) {
    incomingBoard.setState({ waiting: [...waiting, file] });
    return;
  }
  inFront = file;
  tell({ step: 'sending', fileName: file.name, share: 0 });
  try {
    const received = await send(file);
    if (inFront === file) tell({ step: 'asking', file: received });
  } catch (error) {
    if (inFront === file) tell({ step: 'failed', why: (error as Error).message });
  }
}

/** Reads it as a board of its own (`into`: null) or into one that it shares a past with. */
export async function readBoardFile(
  file: ReceivedBoardFile,
  into: string | null,
  by: string | null,
): Promise<void> {
  tell({ step: 'reading', file });
  const parameters = { id: file.id };
  let failures = 0;
  let reading: BoardFileReading | undefined;
  try {
    reading = await ask('POST /api/board-files/:id/readings', { parameters, body: { into, by } });
    while (reading.state === 'waiting' || reading.state === 'working') {
      await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
      const next: BoardFileReading | undefined = await ask('GET /api/board-files/:id', { parameters }).catch(
        (error: unknown) => {
          failures += 1;
          if (failures > MOST_FAILURES) throw error;
          return undefined;
        },
      );
      reading = next ?? reading;
    }
    if (reading.state === 'failed' || !reading.result)
      tellOf(file, { step: 'failed', why: reading.why ?? 'It could not be read.' });
    else tellOf(file, { step: 'done', file, result: reading.result });
  } catch (error) {
    tellOf(file, { step: 'failed', why: (error as Error).message });
  }
}

/** Lets it go; what is being read is read to its end at the server. */
export function leaveBoardFile(): void {
  sending?.abort();
  sending = undefined;
  inFront = undefined;
  const [next, ...waiting] = incomingBoard.getState().waiting;
  incomingBoard.setState({ now: undefined, waiting });
  if (next) void takeBoardFile(next);
}

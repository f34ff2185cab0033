import type { FromModels, ModelSource, ToModels } from '../messages.ts';
import { DrawnModel } from './draw-model.ts';
import { type LoadedModel, ModelError, readModel } from './read-model.ts';

const tell = (message: FromModels, transfer: Transferable[] = []) => self.postMessage(message, { transfer });

interface Open {
  readonly source: ModelSource;
  /** Undefined while others are drawn: it is read again when it is asked for. */
  drawn: Promise<{ model: LoadedModel; drawing: DrawnModel }> | undefined;
}

/** In the order in which they were drawn last. */
const open = new Map<string, Open>();
/** So many stay in memory at once. */
const MOST_READ = 4;

async function bytesOf({ address, bytes }: ModelSource): Promise<ArrayBuffer> {
  if (bytes) return bytes.arrayBuffer();
  let answer: Response;
  try {
    answer = await fetch(address!);
  } catch {
    throw new ModelError('The server is away: the model is read once it is back.');
  }
  if (!answer.ok) throw new ModelError('Its file does not come from the server.');
  return answer.arrayBuffer();
}

async function read(source: ModelSource) {
  const model = await readModel(await bytesOf(source), source.type);
  return { model, drawing: new DrawnModel(model) };
}

/** A model that was read, and is from now on the one that was drawn last. */
function drawnOf(id: string) {
  const one = open.get(id);
  if (!one) throw new ModelError('The model was closed.');
  open.delete(id);
  open.set(id, one);
  one.drawn ??= read(one.source);
  // What could not be read is read again when it is asked for again.
  one.drawn.catch(() => {
    one.drawn = undefined;
  });
  const inMemory = [...open].filter(([, { drawn }]) => drawn !== undefined);
  for (const [, other] of inMemory.slice(0, -MOST_READ)) {
    void other.drawn!.then(
      ({ drawing }) => drawing.close(),
      () => {},
    );
    other.drawn = undefined;
  }
  return one.drawn;
}

async function answer(message: Exclude<ToModels, { kind: 'close' }>): Promise<void> {
  const { ask, id } = message;
  if (message.kind === 'open') {
    open.set(id, { source: message.source, drawn: undefined });
    const { model } = await drawnOf(id);
    const { points, triangles, shown, missing, hasSurface } = model;
    tell({ kind: 'read', ask, model: { points, triangles, shown, missing, hasSurface } });
    return;
  }
  const { drawing } = await drawnOf(id);
  const begunMs = performance.now();
  const canvas = drawing.draw(message.picture);
  if (message.kind === 'draw') {
    const bitmap = canvas.transferToImageBitmap();
    drawing.took(performance.now() - begunMs);
    tell({ kind: 'drawn', ask, bitmap }, [bitmap]);
  } else {
    const file = await canvas.convertToBlob({ type: message.type, quality: 0.9 });
    tell({ kind: 'picture', ask, file });
  }
}

const wordsOf = (error: unknown): string =>
  error instanceof ModelError
    ? error.message
    : 'The model cannot be drawn: something in its file is not as it should be.';

/** One after the other: the canvas is everybody's. */
let turn: Promise<unknown> = Promise.resolve();

self.onmessage = ({ data }: MessageEvent<ToModels>) => {
  if (data.kind === 'close') {
    const one = open.get(data.id);
    open.delete(data.id);
    void one?.drawn?.then(
      ({ drawing }) => drawing.close(),
      () => {},
    );
    return;
  }
  turn = turn.then(() =>
    answer(data).catch((error: unknown) => tell({ kind: 'unanswered', ask: data.ask, why: wordsOf(error) })),
  );
};

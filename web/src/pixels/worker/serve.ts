import { whyOf } from '@miradero/core/text';
import {
  type AnswerOf,
  type FromPixels,
  PixelError,
  type PixelProgress,
  type PixelRequestKind,
  type RequestOf,
  type ToPixels,
} from '../requests.ts';
import { areaRead, colourOf, complexityAt, distributionOf, regionOf } from './read.ts';
import type { PixelStore, Wanted } from './store.ts';
import { formRead, histogramRead, lightRead, strokesRead, studyRead } from './studies.ts';

type Answerers = {
  readonly [K in PixelRequestKind]: (
    store: PixelStore,
    request: RequestOf<K>,
    asker: Wanted,
  ) => Promise<AnswerOf<K>>;
};

/** Who answers what. */
const ANSWERERS: Answerers = {
  level: (store, { source, side }, asker) => store.takeWhole(source, side, asker),
  copy: (store, { path }, asker) => store.take(path, asker),
  region: regionOf,
  distribution: distributionOf,
  colour: colourOf,
  area: areaRead,
  histogram: histogramRead,
  study: studyRead,
  light: lightRead,
  strokes: strokesRead,
  form: formRead,
  complexity: complexityAt,
};

/** What of an answer is handed over instead of copied. */
function handedOver(answer: AnswerOf<PixelRequestKind>): Transferable[] {
  if (answer instanceof Float32Array) return [answer.buffer];
  if ('data' in answer) return [answer.data.buffer];
  if ('cells' in answer) return [answer.cells.buffer];
  return 'close' in answer ? [answer] : [];
}

type Port = Pick<MessagePort, 'postMessage' | 'onmessage'>;

/** Answers what is asked through a channel, as long as it is wanted. */
export function serve(port: Port, store: PixelStore, answerers: Answerers = ANSWERERS): void {
  const asked = new Map<number, AbortController>();
  const tell = (message: FromPixels, transfer: Transferable[] = []) => port.postMessage(message, transfer);

  async function answer(message: ToPixels & { kind: 'ask' }): Promise<void> {
    const { id, what, request, isWatched } = message;
    const ending = new AbortController();
    asked.set(id, ending);
    const onProgress = (progress: PixelProgress) => tell({ kind: 'progress', id, progress });
    const asker: Wanted = { signal: ending.signal, ...(isWatched && { onProgress }) };
    try {
      const ask = answerers[what] as (...given: unknown[]) => Promise<AnswerOf<PixelRequestKind>>;
      const given = await ask(store, request, asker);
      if (!ending.signal.aborted) tell({ kind: 'answer', id, answer: given }, handedOver(given));
      else if ('close' in given) given.close();
    } catch (error) {
      if (ending.signal.aborted) return;
      const trouble = error instanceof PixelError ? error.trouble : 'undecodable';
      tell({ kind: 'failed', id, trouble, message: whyOf(error) });
    } finally {
      asked.delete(id);
    }
  }

  port.onmessage = ({ data }: MessageEvent<ToPixels>) => {
    if (data.kind === 'cancel') asked.get(data.id)?.abort();
    else void answer(data);
  };
}

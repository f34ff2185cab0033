import { differenceOf, SMALL, type SmallFrame } from '@miradero/core/motion';
import type { FromFrames, MotionSource, ToFrames } from '../messages.ts';
import { readClip } from './clip-reader.ts';
import { readAnimation } from './image-reader.ts';
import { type FrameReader, UnreadableError } from './reader.ts';

const tell = (message: FromFrames, transfer: Transferable[] = []) => self.postMessage(message, { transfer });

/** One thing that moves, and which of its frames are wanted. */
interface Open {
  readonly reader: Promise<FrameReader>;
  wanted: readonly number[];
  side: number;
  /** The frame that is being read. */
  reading: number | undefined;
  isReading: boolean;
}
const open = new Map<string, Open>();

/** One frame is read at a time, whoever asks for it. */
function inTurn(reader: FrameReader): FrameReader {
  let turn: Promise<unknown> = Promise.resolve();
  return {
    ...reader,
    read(frame) {
      const read = turn.then(() => reader.read(frame));
      turn = read.catch(() => {});
      return read;
    },
  };
}

async function readerOf({ address, type, kind }: MotionSource): Promise<FrameReader> {
  if (kind === 'clip') return readClip(address);
  const answer = await fetch(address);
  if (!answer.ok) throw new UnreadableError('Its file does not come from the server.');
  return readAnimation(await answer.arrayBuffer(), type);
}

const wordsOf = (error: unknown): string =>
  error instanceof UnreadableError ? error.message : 'Its file cannot be read to the end.';

function start(id: string, source: MotionSource): void {
  const reader = readerOf(source).then(inTurn);
  open.set(id, { reader, wanted: [], side: 0, reading: undefined, isReading: false });
  reader.then(
    ({ times, width, height }) => tell({ kind: 'opened', id, times, width, height }),
    (error: unknown) => tell({ kind: 'failed', id, why: wordsOf(error) }),
  );
}

/** Reads what is wanted, one frame after the other, as long as anything is. */
async function readOn(id: string, one: Open): Promise<void> {
  if (one.isReading) return;
  one.isReading = true;
  try {
    const reader = await one.reader;
    for (let frame = one.wanted[0]; frame !== undefined; frame = one.wanted[0]) {
      one.wanted = one.wanted.slice(1);
      one.reading = frame;
      const { side } = one;
      const image = await reader.read(frame);
      const scale = Math.min(1, side / Math.max(reader.width, reader.height));
      const bitmap = await createImageBitmap(image, {
        resizeWidth: Math.max(1, Math.round(reader.width * scale)),
        resizeHeight: Math.max(1, Math.round(reader.height * scale)),
        resizeQuality: 'medium',
      });
      image.close();
      if (open.get(id) !== one) {
        bitmap.close();
        return;
      }
      tell({ kind: 'frame', id, frame, side, bitmap }, [bitmap]);
    }
  } catch (error) {
    tell({ kind: 'failed', id, why: wordsOf(error) });
  } finally {
    one.isReading = false;
    one.reading = undefined;
  }
}

/** A frame as a file, all its pixels. */
async function pngOf(reader: FrameReader, frame: number): Promise<Blob> {
  const image = await reader.read(frame);
  const canvas = new OffscreenCanvas(reader.width, reader.height);
  canvas.getContext('2d')!.drawImage(image, 0, 0, reader.width, reader.height);
  image.close();
  return canvas.convertToBlob({ type: 'image/png' });
}

/** What was asked and is wanted no more. */
const stopped = new Set<number>();
/** So often it is told how far a survey is. */
const TELL_MS = 200;

/** How much each frame differs from the one before it; none of them is kept: of a long film they would fill the memory. */
async function surveyOf(id: string, ask: number, reader: FrameReader): Promise<number[]> {
  const canvas = new OffscreenCanvas(SMALL.width, SMALL.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.imageSmoothingQuality = 'high';
  const differences: number[] = [];
  let before: SmallFrame | undefined;
  let toldMs = performance.now();
  for (let frame = 0; frame < reader.times.startsUs.length; frame += 1) {
    if (stopped.delete(ask)) throw new UnreadableError('It was stopped.');
    const image = await reader.read(frame);
    context.drawImage(image, 0, 0, SMALL.width, SMALL.height);
    image.close();
    const { data } = context.getImageData(0, 0, SMALL.width, SMALL.height);
    const small = Float32Array.from(
      { length: 3 * SMALL.width * SMALL.height },
      (_, at) => data[4 * Math.floor(at / 3) + (at % 3)]! / 255,
    );
    differences.push(differenceOf(before, small));
    before = small;
    if (performance.now() - toldMs < TELL_MS) continue;
    toldMs = performance.now();
    tell({ kind: 'surveying', id, ask, done: frame + 1 });
  }
  return differences;
}

type Question = Exclude<Extract<ToFrames, { ask: number }>, { kind: 'stop' }>;

async function answer(id: string, one: Open, asked: Question): Promise<void> {
  const { ask } = asked;
  try {
    const reader = await one.reader;
    if (asked.kind === 'still') tell({ kind: 'still', id, ask, png: await pngOf(reader, asked.frame) });
    else {
      tell({ kind: 'surveyed', id, ask, differences: await surveyOf(id, ask, reader) });
    }
  } catch (error) {
    tell({ kind: 'unanswered', id, ask, why: wordsOf(error) });
  }
}

self.onmessage = ({ data }: MessageEvent<ToFrames>) => {
  if (data.kind === 'open') {
    start(data.id, data.source);
    return;
  }
  const one = open.get(data.id);
  if (!one) return;
  if (data.kind === 'close') {
    open.delete(data.id);
    void one.reader.then(
      (reader) => reader.close(),
      () => {},
    );
    return;
  }
  if (data.kind === 'stop') {
    stopped.add(data.ask);
    return;
  }
  if (data.kind !== 'read') {
    void answer(data.id, one, data);
    return;
  }
  const isSame = data.side === one.side;
  one.wanted = data.frames.filter((frame) => !(isSame && frame === one.reading));
  one.side = data.side;
  void readOn(data.id, one);
};

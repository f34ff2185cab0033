import type { FromPaint, ToPaint } from '../messages.ts';
import { PaintRoom } from './paint-room.ts';

/** Owns one sheet that is painted. What the hand told while something was computed is done as one. */
const room = new PaintRoom((message: FromPaint, transfer: Transferable[] = []) =>
  self.postMessage(message, { transfer }),
);

type Told = Exclude<ToPaint, { kind: 'open' | 'file' }>;
let waiting: Told[] = [];
let isOpen = false;
const wake = new MessageChannel();

function tellLater(message: Told): void {
  const last = waiting.at(-1);
  if (message.kind === 'way' && last?.kind === 'way')
    waiting[waiting.length - 1] = { ...message, points: [...last.points, ...message.points] };
  else waiting.push(message);
  wake.port2.postMessage(null);
}

wake.port1.onmessage = () => {
  if (!isOpen) return;
  const told = waiting;
  waiting = [];
  for (const message of told) room.hear(message);
};

self.onmessage = ({ data }: MessageEvent<ToPaint>) => {
  // What is looked at alters while the sheet is coming still.
  if (data.kind === 'file') room.come(data.file);
  else if (data.kind === 'look' && !isOpen) room.hear(data);
  else if (data.kind !== 'open') tellLater(data);
  if (data.kind !== 'open') return;
  void room.open(data).then(() => {
    isOpen = true;
    wake.port2.postMessage(null);
  });
};

export { bringBelow } from './bring-below.ts';
export { type DrawnImage, drawOver } from './draw-over.ts';
export { type DrawnLive, type LiveSource, liveIn, liveOn } from './live-layer.ts';
export { type Steps, takePictures } from './taking.ts';
export { TakingLine } from './taking-line.tsx';

import type { Connect } from '../requests.ts';
import { decodeFile, fetchBitmap } from './load.ts';
import { serve } from './serve.ts';
import { PixelStore } from './store.ts';

/** Decoded pixels that this worker keeps for further questions, bytes. */
const BUDGET = 128 * 1024 * 1024;

const store = new PixelStore({ fetchBitmap, decodeFile }, BUDGET);

self.onmessage = ({ data: { port } }: MessageEvent<Connect>) => serve(port, store);

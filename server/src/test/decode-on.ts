import { Decoders } from '../pixels/decoding/decoders.ts';

/** A process whose child decodes something that takes minutes; tells its parent the child's id once it has begun. */
const decoders = new Decoders(1);
void decoders
  .run('levels', {
    ...{ path: process.argv[2]!, poster: undefined, type: 'image/svg+xml', width: 2048, height: 2048 },
  })
  .catch(() => {});
setTimeout(() => process.send?.({ pids: decoders.pids }), 3_000);

import { afterEach, describe, expect, it, vi } from 'vitest';
import { soon } from '../test/soon.ts';
import { PixelClient } from './client.ts';
import { pathOfSide, sidesOf } from './levels.ts';
import { PixelPool } from './pool.ts';
import { type Connect, ORIGINAL, PixelError, type PixelSource } from './requests.ts';
import { serve } from './worker/serve.ts';
import { type Loaders, PixelStore } from './worker/store.ts';

const SOURCE: PixelSource = {
  ...{
    id: 'p',
    width: 4_000,
    height: 3_000,
    file: null,
    hasTiles: false,
    exact: null,
    wholePath: '/whole',
    space: 'srgb',
  },
  levels: [256, 1_024, 2_048].map((side) => ({ side, hash: `h${side}` })),
};

/** A decoded picture as far as the store asks for it. */
class FakeBitmap {
  readonly width: number;
  readonly height: number;
  isClosed = false;
  constructor(width: number, height: number) {
    this.width = width;
    this.height = height;
  }
  close() {
    this.isClosed = true;
  }
}

/** Loads that end when a test says so. */
class FakeLoaders implements Loaders {
  readonly asked: string[] = [];
  readonly signals: AbortSignal[] = [];
  readonly ends: ((bitmap: ImageBitmap | Error) => void)[] = [];
  progress: ((progress: { done: number; total: number | undefined }) => void)[] = [];

  fetchBitmap: Loaders['fetchBitmap'] = (path, signal, onProgress) => {
    this.asked.push(path);
    this.signals.push(signal);
    if (onProgress) this.progress.push(onProgress);
    return new Promise((resolve, reject) => {
      signal.addEventListener('abort', () => reject(signal.reason));
      this.ends.push((end) => (end instanceof Error ? reject(end) : resolve(end)));
    });
  };
  decodeFile: Loaders['decodeFile'] = (file, size) => {
    this.asked.push(`file ${(file as { name?: string }).name} ${size?.width}`);
    return new Promise(() => {});
  };
}
const bitmap = (width: number, height: number) => new FakeBitmap(width, height) as unknown as ImageBitmap;
const isClosed = (one: ImageBitmap) => (one as unknown as FakeBitmap).isClosed;
const wanted = () => {
  const ending = new AbortController();
  return { ending, asker: { signal: ending.signal } };
};

describe('sizes of a picture', () => {
  it('are its levels, and the original where a browser decodes it', () => {
    expect(sidesOf(SOURCE)).toEqual([256, 1_024, 2_048, ORIGINAL]);
    expect(sidesOf({ ...SOURCE, width: 30_000, height: 20_000 })).toEqual([256, 1_024, 2_048]);
    expect(sidesOf({ ...SOURCE, wholePath: null })).toEqual([256, 1_024, 2_048]);
    expect(sidesOf({ ...SOURCE, levels: [], wholePath: null })).toEqual([]);
    expect(sidesOf({ ...SOURCE, levels: [], file: new Blob() })).toEqual([256, 512, 1_024, 2_048, ORIGINAL]);
  });

  it('lie at addresses, or in the file that is not sent yet', () => {
    expect(pathOfSide(SOURCE, 1_024)).toBe('/api/levels/h1024');
    expect(pathOfSide(SOURCE, ORIGINAL)).toBe('/whole');
    expect(pathOfSide({ ...SOURCE, levels: [] }, ORIGINAL)).toBeUndefined();
  });
});

describe('decoded pictures', () => {
  it('that are asked for twice at once are loaded once, and left when nobody wants them any more', async () => {
    const loaders = new FakeLoaders();
    const store = new PixelStore(loaders, 1e9);
    const [one, other] = [wanted(), wanted()];
    const use = vi.fn();
    const first = store.whole(SOURCE, 1_000, one.asker, use);
    const second = store.whole(SOURCE, 1_024, other.asker, use);
    expect(loaders.asked).toEqual(['/api/levels/h1024']);
    one.ending.abort(new Error('no more'));
    expect(loaders.signals[0]!.aborted).toBe(false);
    other.ending.abort(new Error('no more'));
    expect(loaders.signals[0]!.aborted).toBe(true);
    await expect(Promise.allSettled([first, second])).resolves.toMatchObject([
      { status: 'rejected' },
      { status: 'rejected' },
    ]);
    expect(use).not.toHaveBeenCalled();
    // Who asks afterwards does not get what was left.
    void store.whole(SOURCE, 1_024, wanted().asker, use).catch(() => {});
    expect(loaders.asked).toHaveLength(2);
  });

  it('that one asker leaves come to the other', async () => {
    const loaders = new FakeLoaders();
    const store = new PixelStore(loaders, 1e9);
    const one = wanted();
    const left = store.whole(SOURCE, 256, one.asker, () => 'one');
    const kept = store.whole(SOURCE, 256, wanted().asker, ({ side }) => side);
    one.ending.abort(new Error('no more'));
    loaders.ends[0]!(bitmap(256, 192));
    await expect(left).rejects.toThrow('no more');
    expect(await kept).toBe(256);
  });

  it('stay within the budget, what was used longest ago goes first, and what is in use does not go', async () => {
    const loaders = new FakeLoaders();
    const store = new PixelStore(loaders, 2 * 256 * 256 * 4);
    const made = [0, 1, 2].map(() => bitmap(256, 256));
    const load = async (index: number) => {
      const asking = store.whole({ ...SOURCE, id: `p${index}` }, 256, wanted().asker, () => {});
      loaders.ends.at(-1)!(made[index]!);
      await asking;
    };
    await load(0);
    await load(1);
    await store.whole({ ...SOURCE, id: 'p0' }, 256, wanted().asker, () => {});
    await load(2);
    expect(made.map(isClosed)).toEqual([false, true, false]);
    expect(store.bytes).toBe(2 * 256 * 256 * 4);

    // Larger than the whole budget: it is there while it is used, and goes then.
    const large = bitmap(4_000, 3_000);
    let wasClosed: boolean | undefined;
    const asking = store.whole(SOURCE, ORIGINAL, wanted().asker, () => {
      wasClosed = isClosed(large);
    });
    loaders.ends.at(-1)!(large);
    await asking;
    expect([wasClosed, isClosed(large), store.bytes]).toEqual([false, true, 0]);
  });

  it('that cannot be loaded are asked for anew', async () => {
    const loaders = new FakeLoaders();
    const store = new PixelStore(loaders, 1e9);
    const asking = store.whole(SOURCE, 256, wanted().asker, () => {});
    loaders.ends[0]!(new PixelError('unreachable'));
    await expect(asking).rejects.toMatchObject({ trouble: 'unreachable' });
    void store.whole(SOURCE, 256, wanted().asker, () => {}).catch(() => {});
    expect(loaders.asked).toHaveLength(2);
    expect(() => store.whole({ ...SOURCE, levels: [] }, 256, wanted().asker, () => {})).toThrow(PixelError);
  });
});

/** A client and a store, joined by a channel as a window and its worker are. */
function joined(loaders: Loaders): { client: PixelClient; ports: MessagePort[] } {
  const { port1, port2 } = new MessageChannel();
  serve(port2, new PixelStore(loaders, 1e9), {
    level: async (store, { source, side }, asker) => {
      await store.takeWhole(source, side, asker);
      return { width: 1, height: 1, close() {} } as never;
    },
    area: async () => {
      throw new PixelError('absent');
    },
    histogram: async () => {
      throw new PixelError('absent');
    },
    strokes: async () => {
      throw new PixelError('absent');
    },
    form: async () => {
      throw new PixelError('absent');
    },
    light: async () => {
      throw new PixelError('absent');
    },
    study: async () => {
      throw new PixelError('absent');
    },
    copy: async () => {
      throw new PixelError('absent', 'not made yet');
    },
    region: async () => ({ width: 1, height: 1, data: new Uint8ClampedArray([1, 2, 3, 4]), side: 1 }),
    distribution: async () => new Float32Array([0.25, 0.75]),
    colour: async () => [1, 2, 3],
    complexity: async () => [0.5],
  });
  const client = new PixelClient();
  client.connect(port1);
  return { client, ports: [port1, port2] };
}

describe('asking for pixels', () => {
  const open: MessagePort[] = [];
  const join = (loaders: Loaders = new FakeLoaders()) => {
    const { client, ports } = joined(loaders);
    open.push(...ports);
    return client;
  };
  afterEach(() => {
    for (const port of open.splice(0)) port.close();
  });
  const part = { x: 0, y: 0, width: 1, height: 1 };

  it('is answered by what was asked for', async () => {
    const client = join();
    const [region, shares, colour] = await Promise.all([
      client.ask('region', { source: SOURCE, part, side: 256 }),
      client.ask('distribution', { source: SOURCE, part, side: 256, bins: 2 }),
      client.ask('colour', { source: SOURCE, at: { x: 0, y: 0 }, side: 256 }),
    ]);
    expect([...region.data]).toEqual([1, 2, 3, 4]);
    expect([...shares]).toEqual([0.25, 0.75]);
    expect(colour).toEqual([1, 2, 3]);
    expect(client.waiting).toBe(0);
  });

  it('says why there are none', async () => {
    await expect(join().ask('copy', { path: '/api/levels/none' })).rejects.toMatchObject({
      trouble: 'absent',
      message: 'not made yet',
    });
  });

  it('tells how much is here, to those who want to know', async () => {
    const loaders = new FakeLoaders();
    const client = join(loaders);
    const heard: unknown[] = [];
    void client
      .ask('level', { source: SOURCE, side: 256 }, { onProgress: (one) => heard.push(one) })
      .catch(() => {});
    void client.ask('level', { source: SOURCE, side: 1_024 }).catch(() => {});
    await soon(() => expect(loaders.asked).toHaveLength(2));
    expect(loaders.progress).toHaveLength(1);
    loaders.progress[0]!({ done: 10, total: 40 });
    await soon(() => expect(heard).toEqual([{ done: 10, total: 40 }]));
  });

  it('that is wanted no more is left at the other end, too', async () => {
    const loaders = new FakeLoaders();
    const client = join(loaders);
    const ending = new AbortController();
    const asking = client.ask('level', { source: SOURCE, side: 256 }, ending);
    await soon(() => expect(loaders.signals).toHaveLength(1));
    ending.abort(new Error('another picture'));
    await expect(asking).rejects.toThrow('another picture');
    await soon(() => expect(loaders.signals[0]!.aborted).toBe(true));
    expect(client.waiting).toBe(0);
    await expect(client.ask('level', { source: SOURCE, side: 256 }, ending)).rejects.toThrow('another');
  });
});

/** A pixel worker that is connected to nothing. */
class FakeWorker {
  readonly ports: MessagePort[] = [];
  onmessage = () => {};
  onerror: (event: { message: string; preventDefault(): void }) => void = () => {};
  onmessageerror = () => {};
  postMessage({ port }: Connect) {
    this.ports.push(port);
  }
  terminate() {
    for (const port of this.ports) port.close();
  }
}

describe('the pool', () => {
  const start = () => {
    const workers: FakeWorker[] = [];
    const pool = new PixelPool(() => {
      workers.push(new FakeWorker());
      return workers.at(-1) as unknown as Worker;
    }, 8);
    return { pool, workers };
  };

  it('starts what computes with pixels when it is needed, and keeps a picture with one worker', () => {
    const { pool, workers } = start();
    pool.prepare();
    expect(workers).toHaveLength(1);
    const ask = (id: string) =>
      void pool.ask('colour', { source: { ...SOURCE, id }, at: { x: 0, y: 0 }, side: 1 }).catch(() => {});
    ask('p');
    ask('p');
    expect(workers).toHaveLength(2);
    for (const id of 'abcdefgh') ask(id);
    expect(workers).toHaveLength(3);
    pool.close();
  });

  it('rejects what a worker that died was asked, and lends a new channel to the painters', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] });
    vi.spyOn(console, 'error').mockImplementation(() => {});
    const { pool, workers } = start();
    const channels: (MessagePort | undefined)[] = [];
    const end = pool.lend((port) => channels.push(port));
    const asked = pool.ask('copy', { path: '/api/atlases/a' });
    workers[0]!.onerror({ message: 'of no memory', preventDefault() {} });
    await expect(asked).rejects.toMatchObject({ trouble: 'lost' });
    expect(channels.map(Boolean)).toEqual([true, false]);
    vi.advanceTimersByTime(1);
    expect(workers).toHaveLength(2);
    expect(channels.map(Boolean)).toEqual([true, false, true]);
    end();
    pool.close();
    for (const port of channels) port?.close();
    vi.useRealTimers();
    vi.restoreAllMocks();
  });
});

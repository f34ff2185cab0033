import { fork } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { startHostile } from '../../test/hostile.ts';
import { isRunning } from '../../test/processes.ts';
import { until } from '../../test/server.ts';
import { Decoders } from './decoders.ts';

/** Drawn at 2,048 pixels this takes minutes. */
const HEAVY =
  '<svg xmlns="http://www.w3.org/2000/svg" width="2048" height="2048"><filter id="a"><feMorphology operator="dilate" radius="90"/><feGaussianBlur stdDeviation="90"/><feMorphology radius="90"/></filter><rect width="2048" height="2048" fill="#888" filter="url(#a)"/></svg>';

let folder: string;
let heavy: string;
let good: string;
let decoders: Decoders | undefined;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'miradero-decoding-'));
  heavy = join(folder, 'heavy.svg');
  good = join(folder, 'good.png');
  await writeFile(heavy, HEAVY);
  await sharp({ create: { width: 400, height: 300, channels: 3, background: '#2c7a6b' } })
    .png()
    .toFile(good);
});
afterEach(() => decoders?.stop());
afterAll(() => rm(folder, { recursive: true, force: true }));

const asLevels = (path: string, type: 'image/svg+xml' | 'image/png', width: number, height: number) => ({
  ...{ path, poster: undefined, type, width, height },
});
const goodLevels = () => asLevels(good, 'image/png', 400, 300);
const heavyLevels = () => asLevels(heavy, 'image/svg+xml', 2048, 2048);

describe('a file that breaks a limit', () => {
  it('of time is given up, and stops neither what is beside it nor what comes after it', async () => {
    decoders = new Decoders(2);
    const bad = decoders.run('levels', heavyLevels(), 2_500).catch((error) => error);
    expect((await decoders.run('levels', goodLevels())).levels.length).toBeGreaterThan(1);
    expect(await bad).toMatchObject({ reason: 'time' });
    const after = await Promise.all([decoders.run('levels', goodLevels()), decoders.run('examine', good)]);
    expect(after[1]).toMatchObject({ type: 'image/png', width: 400, height: 300 });
  });

  it('of memory is given up, and the process that read it is a new one', async () => {
    const large = join(folder, 'large.png');
    await sharp({ create: { width: 9_000, height: 6_000, channels: 3, background: '#777' } })
      .png({ compressionLevel: 1, progressive: true })
      .toFile(large);
    decoders = new Decoders(1, { mostBytes: 230 * 1024 * 1024 });
    await decoders.run('examine', good);
    const [before] = decoders.pids;
    const small = await sharp(good).resize(64).webp().toBuffer();
    await expect(
      decoders.run('measures', { ...asLevels(large, 'image/png', 9_000, 6_000), small }),
    ).rejects.toMatchObject({ reason: 'memory' });
    expect(await decoders.run('examine', good)).toMatchObject({ width: 400 });
    expect(decoders.pids[0]).not.toBe(before);
  });

  it('or ends the process that reads it says so', async () => {
    decoders = new Decoders(1);
    await decoders.run('examine', good);
    const bad = decoders.run('levels', heavyLevels()).catch((error) => error);
    process.kill(decoders.pids[0]!, 'SIGSEGV');
    expect(await bad).toMatchObject({ reason: 'died' });
  });

  it('or is no picture is just unreadable', async () => {
    decoders = new Decoders(1);
    const none = join(folder, 'none.png');
    await writeFile(none, 'nothing');
    await expect(decoders.run('levels', asLevels(none, 'image/png', 9, 9))).rejects.toMatchObject({
      reason: 'unreadable',
    });
  });
});

describe('a decoding process', () => {
  it('does not outlive its parent, also in the middle of a picture', async () => {
    const parent = fork(fileURLToPath(new URL('../../test/decode-on.ts', import.meta.url)), [heavy], {
      execArgv: ['--import', import.meta.resolve('tsx')],
    });
    const [{ pids }] = (await once(parent, 'message')) as [{ pids: number[] }];
    expect(pids.map(isRunning)).toEqual([true]);
    parent.kill('SIGKILL');
    await until(async () => !isRunning(pids[0]!), 8_000);
  });

  it('asks no address that a drawing names, and reads no file beside it', async () => {
    const host = await startHostile({});
    await sharp({ create: { width: 40, height: 40, channels: 3, background: '#ff0000' } })
      .png()
      .toFile(join(folder, 'beside.png'));
    const names = ['beside.png', `${folder}/beside.png`, `file://${folder}/beside.png`, host.at('/x.png')];
    const drawing = join(folder, 'outside.svg');
    const images = names.map((name) => `<image href="${name}" width="40" height="40"/>`).join('');
    await writeFile(
      drawing,
      `<?xml-stylesheet href="${host.at('/x.css')}"?><!DOCTYPE svg [<!ENTITY e SYSTEM "${host.at('/e')}">]><svg xmlns="http://www.w3.org/2000/svg" width="40" height="40"><style>@import url(${host.at('/i.css')});</style><rect width="40" height="40" fill="#2c7a6b"/>${images}<use href="${host.at('/u.svg')}#a"/><filter id="f"><feImage href="${host.at('/f.png')}"/></filter><rect width="9" height="9" filter="url(#f)"/></svg>`,
    );
    decoders = new Decoders(1);
    const small = await decoders.run('small', { path: drawing, side: 40 }).catch(() => undefined);
    const { levels } = await decoders.run('levels', asLevels(drawing, 'image/svg+xml', 2048, 2048));
    for (const bytes of [small, levels[0]!.bytes]) {
      if (!bytes) continue;
      const { dominant } = await sharp(bytes).stats();
      expect(dominant.r).toBeLessThan(100);
    }
    expect(host.asked).toEqual([]);
    await host.stop();
  });
});

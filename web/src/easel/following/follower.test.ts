import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { Follower } from './follower.ts';

beforeEach(() => void vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] }));
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** A file of a disk that tests write. */
class Disk {
  file: File | undefined;
  permission: PermissionState = 'granted';
  saves = 0;

  save(text: string): void {
    this.saves += 1;
    this.file = new File([text], 'winch.png', { lastModified: 1_000 * this.saves });
  }
  readonly handle = {
    getFile: async () => {
      if (this.permission !== 'granted') throw new DOMException('no', 'NotAllowedError');
      if (!this.file) throw new DOMException('gone', 'NotFoundError');
      return this.file;
    },
    queryPermission: async () => this.permission,
    requestPermission: async () => {
      this.permission = 'granted';
      return this.permission;
    },
  };
}

async function follow(disk: Disk, take?: (file: File) => Promise<boolean>) {
  const taken: string[] = [];
  const follower = new Follower(disk.handle, async (file) => {
    if (take && !(await take(file))) return false;
    taken.push(await file.text());
    return true;
  });
  await follower.start();
  const kind = () => follower.store.getState().state.kind;
  return { follower, taken, kind };
}
const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms);

it('takes a save once it stood still, and each one once', async () => {
  const disk = new Disk();
  disk.save('one');
  const { taken, kind, follower } = await follow(disk);
  expect(kind()).toBe('saving');
  await pass(250);
  expect(taken).toEqual([]);
  await pass(200);
  expect(taken).toEqual(['one']);
  await pass(10_000);
  expect(taken).toEqual(['one']);
  disk.save('two');
  await pass(2_500);
  expect(taken).toEqual(['one', 'two']);
  follower.stop();
  disk.save('three');
  await pass(10_000);
  expect(taken).toHaveLength(2);
});

it('asks for permission after a restart, and goes on after it was given', async () => {
  const disk = new Disk();
  disk.save('one');
  disk.permission = 'prompt';
  const { taken, kind, follower } = await follow(disk);
  expect(kind()).toBe('asking');
  await pass(5_000);
  expect(taken).toEqual([]);
  await follower.ask();
  await pass(500);
  expect(taken).toEqual(['one']);
  // Taken back while it is followed.
  disk.permission = 'prompt';
  await pass(2_500);
  expect(kind()).toBe('asking');
});

it('says that it is gone, not while it is renamed over, and takes it up when it is back', async () => {
  const disk = new Disk();
  disk.save('one');
  const { taken, kind } = await follow(disk);
  await pass(500);
  disk.file = undefined;
  await pass(2_100);
  expect(kind()).not.toBe('gone');
  await pass(1_700);
  expect(kind()).toBe('gone');
  disk.save('two');
  await pass(2_500);
  expect([kind(), ...taken]).toEqual(['watching', 'one', 'two']);
});

it('tries again what was no whole picture, and says why one cannot be taken', async () => {
  const disk = new Disk();
  disk.save('half');
  let fault: string | undefined;
  const { taken, kind, follower } = await follow(disk, async (file) => {
    if (fault) throw new Error(fault);
    return (await file.text()) !== 'half';
  });
  await pass(3_000);
  expect([kind(), taken.length]).toEqual(['saving', 0]);
  disk.save('whole');
  await pass(1_000);
  expect(taken).toEqual(['whole']);
  fault = 'Too many pixels.';
  disk.save('huge');
  await pass(3_000);
  expect(follower.store.getState().state).toEqual({ kind: 'unreadable', why: 'Too many pixels.' });
  fault = undefined;
  await pass(3_000);
  expect([kind(), ...taken]).toEqual(['watching', 'whole', 'huge']);
  // What stands still and is none says so after a while, and is taken up once it is written anew.
  disk.save('half');
  await pass(2_500);
  expect(kind()).toBe('saving');
  await pass(8_000);
  expect(follower.store.getState().state).toMatchObject({
    kind: 'unreadable',
    why: expect.stringContaining('no whole picture'),
  });
  disk.save('whole again');
  await pass(3_000);
  expect([kind(), taken.at(-1)]).toEqual(['watching', 'whole again']);
});

it('looks at once where the browser tells of an alteration', async () => {
  let tell = () => {};
  let isEnded = false;
  vi.stubGlobal(
    'FileSystemObserver',
    class {
      constructor(onChange: () => void) {
        tell = onChange;
      }
      // Settles with the first alteration only.
      observe() {
        return new Promise<void>(() => {});
      }
      disconnect() {
        isEnded = true;
      }
    },
  );
  const disk = new Disk();
  disk.save('one');
  const { taken, follower } = await follow(disk);
  await pass(500);
  disk.save('two');
  tell();
  await pass(450);
  expect(taken).toEqual(['one', 'two']);
  follower.stop();
  expect(isEnded).toBe(true);
});

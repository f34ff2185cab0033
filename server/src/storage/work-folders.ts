import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const PREFIX = 'miradero-work-';

/** An empty folder for files that are wanted for a while; whoever made it removes it. Its name tells the process. */
export const makeWorkFolder = (): Promise<string> => mkdtemp(join(tmpdir(), `${PREFIX}${process.pid}-`));

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // It is somebody else's.
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** Removes what processes left that were ended in the middle: of a large board it would be gigabytes each time. */
export async function removeLeftFolders(): Promise<void> {
  for (const name of await readdir(tmpdir())) {
    const pid = name.startsWith(PREFIX) ? Number(/^\d+/.exec(name.slice(PREFIX.length))?.[0]) : Number.NaN;
    if (!Number.isInteger(pid) || isRunning(pid)) continue;
    // What cannot be removed is not ours.
    await rm(join(tmpdir(), name), { recursive: true, force: true }).catch(() => {});
  }
}

import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync } from 'node:fs';
import { mkdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { makeWorkFolder, removeLeftFolders } from './work-folders.ts';

it('folders of processes that ended are removed with what is in them, others stay', async () => {
  const ended = spawn(process.execPath, ['--version']);
  await once(ended, 'exit');
  const left = join(tmpdir(), `miradero-work-${ended.pid}-left`);
  await mkdir(left);
  await writeFile(join(left, 'board.zip'), 'half a board');
  const strange = join(tmpdir(), `miradero-work-of-somebody-${process.pid}`);
  await mkdir(strange);
  const own = await makeWorkFolder();
  try {
    await removeLeftFolders();
    expect([existsSync(left), existsSync(own), existsSync(strange)]).toEqual([false, true, true]);
  } finally {
    for (const folder of [left, own, strange]) await rm(folder, { recursive: true, force: true });
  }
});

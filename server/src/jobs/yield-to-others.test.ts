import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { constants } from 'node:os';
import { text } from 'node:stream/consumers';
import { expect, it } from 'vitest';
import { programOf } from '../programs.ts';

const SHOW = `
import { existsSync, readFileSync } from 'node:fs';
import { getPriority } from 'node:os';
import { yieldToOthers } from ${JSON.stringify(new URL('./yield-to-others.ts', import.meta.url).href)};
yieldToOthers();
const group = '/proc/self/autogroup';
console.log(JSON.stringify([getPriority(), existsSync(group) ? readFileSync(group, 'utf8') : '']));
`;

it('a process and its whole session let others go first', async () => {
  const args = [...programOf('jobs').execArgv, '--input-type=module', '--eval', SHOW];
  const child = spawn(process.execPath, args, {
    detached: true,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const [own, group] = JSON.parse(await text(child.stdout)) as [number, string];
  expect(own).toBe(constants.priority.PRIORITY_LOW);
  // Other systems have no such groups.
  if (existsSync('/proc/self/autogroup')) expect(group.trim()).toMatch(/ nice 19$/);
});

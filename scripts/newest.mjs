import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

/** When the newest source in a folder was altered, ms; what is built or installed does not count. */
export function newestIn(folder) {
  let newest = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist'].includes(entry.name)) continue;
    const path = join(folder, entry.name);
    newest = Math.max(newest, entry.isDirectory() ? newestIn(path) : statSync(path).mtimeMs);
  }
  return newest;
}

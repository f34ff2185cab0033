import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const PATH = fileURLToPath(new URL('../../docs/soak.md', import.meta.url));
const HEAD = '# Soak\n\nWritten by `npm run soak`; each part when it was run last.\n';

/** Writes what a part of the soak came to into `docs/soak.md`, in the place of its words before. */
export function writeSoak(part: string, words: string): void {
  const known = existsSync(PATH) ? readFileSync(PATH, 'utf8') : '';
  const parts = new Map(
    [...known.matchAll(/^## (.+)\n\n([\s\S]*?)(?=\n## |$(?![\s\S]))/gm)].map(([, name, text]) => [
      name!,
      text!.trim(),
    ]),
  );
  parts.set(part, `${new Date().toISOString().slice(0, 10)}: ${words}`);
  const sections = [...parts].sort().map(([name, text]) => `\n## ${name}\n\n${text}\n`);
  writeFileSync(PATH, HEAD + sections.join(''));
}

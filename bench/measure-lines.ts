import { fileURLToPath } from 'node:url';
import type { Page } from '@playwright/test';
import { build } from 'esbuild';

const CORE = fileURLToPath(new URL('../core/src/typesetting/break-lines.ts', import.meta.url));

/** Texts that once held a page for seconds, each of one word. */
const TEXTS = {
  '20,000 letters': 'stormlantern'.repeat(1_700).slice(0, 20_000),
  '20,000 letters with accents': 'gâtéçöñ'.repeat(2_900).slice(0, 20_000),
  '20,000 Chinese characters': '渡船停在泥滩上潮水退去时'.repeat(1_700).slice(0, 20_000),
} as const;

interface LinesTook {
  readonly what: string;
  readonly firstMs: number;
  /** Of reading every character's width from a canvas once, and nothing else. */
  readonly limitMs: number;
}

/** Breaks each text for the first time in a page of its own, where nothing is remembered. */
export async function measureLines(open: () => Promise<Page>): Promise<LinesTook[]> {
  const built = await build({
    ...{ entryPoints: [CORE], bundle: true, write: false, format: 'iife', globalName: 'lines' },
  });
  const script = built.outputFiles[0]!.text;
  const took: LinesTook[] = [];
  for (const [what, text] of Object.entries(TEXTS)) {
    const page = await open();
    await page.addScriptTag({ content: script });
    const { firstMs, limitMs } = await page.evaluate((word) => {
      const { breakLines } = (
        window as unknown as { lines: typeof import('../core/src/typesetting/break-lines.ts') }
      ).lines;
      const context = new OffscreenCanvas(1, 1).getContext('2d')!;
      context.font = '16px serif';
      const measure = (piece: string) => context.measureText(piece).width;
      // Finding a font for a script is the browser's work, once.
      measure([...new Set(word)].join(''));
      const started = performance.now();
      breakLines(word, 212, measure);
      const between = performance.now();
      for (const character of word) measure(character);
      return { firstMs: between - started, limitMs: performance.now() - between };
    }, text);
    took.push({ what, firstMs, limitMs });
    await page.context().close();
  }
  return took;
}

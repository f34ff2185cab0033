import { randomUUID } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { launchBrowser } from '../e2e/support/browser.ts';
import { startRunning } from '../e2e/support/running.ts';
import { pageIn } from './frames.ts';
import { openingTime } from './measure-stage.ts';

const running = await startRunning();
const browser = await launchBrowser();
try {
  const id = randomUUID();
  await fetch(running.address + '/api/boards', {
    method: 'POST',
    body: JSON.stringify({ id, name: 'x' }),
    headers: { 'Content-Type': 'application/json' },
  });
  const times: number[] = [];
  for (let i = 0; i < 9; i += 1) {
    const page = await pageIn(browser);
    times.push(await openingTime(page, `${running.address}/boards/${id}`));
    if (i === 8) {
      const e = await page.evaluate(
        `JSON.stringify({ nav: performance.getEntriesByType('navigation').map(n => ({ rs: n.responseStart, re: n.responseEnd, di: n.domInteractive, dcl: n.domContentLoadedEventEnd, l: n.loadEventEnd })), paint: performance.getEntriesByType('paint').map(p => [p.name, p.startTime]), res: performance.getEntriesByType('resource').map(r => [r.name.slice(-40), Math.round(r.startTime), Math.round(r.requestStart), Math.round(r.responseStart), Math.round(r.responseEnd), r.transferSize]) })`,
      );
      console.log(String(e).replace(/\],\[/g, '],\n['));
    }
    await page.context().close();
  }
  console.log(
    'empty',
    times.map((t) => t.toFixed(0)).join(' '),
    'median',
    [...times].sort((a, b) => a - b)[4]!.toFixed(0),
  );
  const base: number[] = [];
  for (let i = 0; i < 7; i += 1) {
    const page = await pageIn(browser);
    const t = performance.now();
    await page.goto(`${running.address}/mark.svg`);
    base.push(performance.now() - t);
    await page.context().close();
  }
  console.log('an svg', base.map((t) => t.toFixed(0)).join(' '));
  const page = await pageIn(browser);
  await browser.startTracing(page, {
    path: '/tmp/open-trace.json',
    categories: [
      'devtools.timeline',
      'v8',
      'blink.user_timing',
      'disabled-by-default-v8.cpu_profiler',
      'loading',
    ],
  });
  await openingTime(page, `${running.address}/boards/${id}`);
  await browser.stopTracing();
} finally {
  await browser.close();
  await running.stop();
}

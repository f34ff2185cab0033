import { chromium } from '@playwright/test';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.addInitScript('globalThis.__name = (f) => f');
const base = 'http://127.0.0.1:4999';
const r2 = await (await fetch(`${base}/api/boards`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ name: 'Five thousand' }) })).json() as any;
const board = r2.board?.id ?? r2.id;
const lib = await (await fetch(`${base}/api/library?limit=60`)).json() as any;
const pics = lib.pictures;
const { keysOnTop } = await import('@miradero/core/board');
const stacks = keysOnTop([], 5000);
const ops = Array.from({ length: 5000 }, (_, i) => { const p = pics[i % pics.length]; return { create: { removed: false, turn: 0, opacity: 1, kind: 'placement', id: `p${i}`, stack: stacks[i], picture: p.id, centre: { x: (i % 100) * 340, y: Math.floor(i / 100) * 240 }, width: 300, pictureWidth: p.width, pictureHeight: p.height, flipX: false, flipY: false, trim: { x: 0, y: 0, width: 1, height: 1 } } }; });
console.log((await fetch(`${base}/api/boards/${board}/changes`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ changes: [{ id: crypto.randomUUID(), operations: ops }] }) })).status);
await page.goto(`${base}/boards/${board}`);
await page.locator('[data-stage="sharp"]').first().waitFor({ timeout: 60000 });
const at = await page.evaluate(() => {
  const view = (window as any).miraderoStage;
  const { left, top } = view.canvas.getBoundingClientRect();
  const { camera, viewport } = view;
  const placed = [...view.feed.board.items.values()] as any[];
  const away = ({ centre }: any) => Math.hypot(centre.x - camera.centre.x, centre.y - camera.centre.y);
  const [nearest] = placed.sort((a, b) => away(a) - away(b));
  return { id: nearest.id, x: left + viewport.width / 2 + (nearest.centre.x - camera.centre.x) * camera.scale, y: top + viewport.height / 2 + (nearest.centre.y - camera.centre.y) * camera.scale, scale: camera.scale };
});
console.log(at);
await page.mouse.click(at.x, at.y); await page.waitForTimeout(500);
const sel = () => page.evaluate(() => (document.querySelector('footer')?.textContent ?? '').slice(0, 80));
console.log('sel', await sel());
for (let i = 0; i < 40; i++) {
  const r = await page.evaluate(() => new Promise<any>((done) => {
    const mark = document.querySelector('[data-testid=saved]')!;
    const times = { pressed: performance.now(), drawn: 0, saved: 0, frames: 0, states: [] as any[] };
    (window as any).times = times;
    (window as any).miraderoStage.onFrame = () => { times.frames += 1; times.states.push({ ...(window as any).miraderoStage.status }); if (times.drawn === 0 && (window as any).miraderoStage.status.isCurrent) times.drawn = performance.now(); };
    const watch = new MutationObserver(() => { times.states.push(mark.getAttribute('data-state')); if (mark.getAttribute('data-state') === 'saved') { times.saved = performance.now(); watch.disconnect(); } });
    watch.observe(mark, { attributes: true });
    done(0);
  }));
  await page.keyboard.press('ArrowRight');
  try { await page.waitForFunction(() => (window as any).times.drawn > 0 && (window as any).times.saved > 0, undefined, { timeout: 5000 }); }
  catch { console.log('stuck at', i, JSON.stringify(await page.evaluate(() => (window as any).times))); console.log(await page.getByTestId('saved').getAttribute('data-state')); await page.screenshot({ path: '/tmp/n1.png' }); break; }
}
await browser.close();

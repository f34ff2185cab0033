import { chromium } from '@playwright/test';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
await context.addInitScript('globalThis.__name = (f) => f');
const page = await context.newPage();
const watch = (p: any, n: string) => { p.on('console', (m: any) => m.type() === 'error' && console.log(n, 'console', m.text().slice(0, 200))); p.on('pageerror', (e: Error) => console.log(n, 'pageerror', e.message)); };
watch(page, 'page');
let opened = 0; context.on('page', (p) => { opened += 1; watch(p, `p${opened}`); });
const open = async (from: any, key: string) => { const o = context.waitForEvent('page', { timeout: 8000 }); await from.keyboard.press(key); const p = await o; await p.setViewportSize({ width: 480, height: 360 }); await p.waitForTimeout(1500); return p; };
const base = 'http://127.0.0.1:4999';
const make = async (name: string, n: number) => {
  const r2 = await (await fetch(`${base}/api/boards`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ name }) })).json() as any;
  const board = r2.board?.id ?? r2.id;
  const lib = await (await fetch(`${base}/api/library?limit=12`)).json() as any;
  const pics = lib.pictures.slice(0, n);
  const plain = { removed: false, turn: 0, opacity: 1 };
  const ops = pics.map((p: any, i: number) => ({ create: { ...plain, kind: 'placement', id: `q${i}`, stack: `a${i}`, picture: p.id, centre: { x: i * 340, y: 0 }, width: 300, pictureWidth: p.width, pictureHeight: p.height, flipX: false, flipY: false, trim: { x: 0, y: 0, width: 1, height: 1 } } }));
  if (ops.length) await fetch(`${base}/api/boards/${board}/changes`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ changes: [{ id: crypto.randomUUID(), operations: ops }] }) });
  return board as string;
};
const board = await make('Second \u202Ehalf hour \u{1F984} ' + 'x'.repeat(80), 5);
await page.goto(`${base}/boards/${board}`);
await page.locator('[data-stage="sharp"]').first().waitFor({ timeout: 60000 });
// P held
await page.keyboard.down('p'); for (let i = 0; i < 15; i++) { await page.keyboard.down('p'); } await page.keyboard.up('p'); await page.waitForTimeout(1500);
console.log('held P: windows', context.pages().length);
// P eight times quickly
for (let i = 0; i < 8; i++) await page.keyboard.press('p'); await page.waitForTimeout(2000);
console.log('P x8: windows', context.pages().length);
for (const p of context.pages().slice(1)) await p.close();
await page.waitForTimeout(700);
// opens stage without one
let perch = await open(page, 'p');
await perch.mouse.move(200, 100); await perch.mouse.move(200, 352); await perch.waitForTimeout(300);
await perch.getByRole('button', { name: 'more' }).click();
await perch.getByRole('radio', { name: 'the working set' }).click(); await perch.waitForTimeout(500);
await perch.close(); await page.waitForTimeout(500);
perch = await open(page, 'p');
await perch.screenshot({ path: '/tmp/i1.png' });
// S on the board adds: shown
await page.bringToFront(); await page.keyboard.press('Control+a'); await page.keyboard.press('s'); await page.waitForTimeout(800);
await page.screenshot({ path: '/tmp/i2.png' });
await page.keyboard.press('Escape'); await page.keyboard.press('Escape'); await page.keyboard.press('Escape');
await perch.waitForTimeout(500); await perch.screenshot({ path: '/tmp/i3.png' });
// paste big word and half emoji into perch
await perch.bringToFront();
await perch.evaluate(() => { const t = new DataTransfer(); t.setData('text/plain', 'w'.repeat(20000)); window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: t, bubbles: true })); });
await perch.waitForTimeout(800);
await perch.evaluate(() => { const t = new DataTransfer(); t.setData('text/plain', 'half \ud83d and \u0000 nul'); window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: t, bubbles: true })); });
await perch.waitForTimeout(1200);
await perch.screenshot({ path: '/tmp/i4.png' });
console.log('saved mark', await page.getByTestId('saved').getAttribute('data-state'));
// slideshow of one; remove under it
await perch.keyboard.press('Control+0'); await perch.waitForTimeout(600);
await perch.keyboard.press('Alt+l'); await perch.waitForTimeout(600);
await page.bringToFront(); await page.keyboard.press('Control+a'); await page.keyboard.press('Delete'); await page.waitForTimeout(900);
await perch.screenshot({ path: '/tmp/i5.png' });
await page.keyboard.press('Control+z'); await page.waitForTimeout(900);
await perch.keyboard.press('Escape');
// board deleted
const gone = await fetch(`${base}/api/boards/${board}`, { method: 'DELETE' }); console.log('delete', gone.status);
await perch.waitForTimeout(2500);
await perch.screenshot({ path: '/tmp/i6.png' }); await page.screenshot({ path: '/tmp/i7.png' });
await browser.close();

import { chromium } from '@playwright/test';
import sharp from 'sharp';

const A = 'http://127.0.0.1:4999';
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  headless: true,
  args: ['--no-sandbox', '--disable-quic'],
});
const ctx = await browser.newContext({ viewport: { width: 1280, height: 800 } });
const page = await ctx.newPage();
page.on('console', (m) => {
  if (m.type() === 'error') console.log('console', m.text());
});
page.on('pageerror', (e) => console.log('pageerror', e.message));
const shots: Buffer[] = [];
const snap = async () => {
  await page.waitForTimeout(900);
  shots.push(await page.screenshot());
};
const boards = (await (await fetch(A + '/api/boards')).json()) as any;
const src = { id: process.argv[2] ?? '5ea00001-0000-4000-8000-000000000002' };
const copy = (await (
  await fetch(`${A}/api/boards/${src.id}/copies`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ name: 'Trying layouts ' + (Date.now() % 1000) }),
  })
).json()) as any;
await page.goto(`${A}/boards/${copy.board.id}`);
await page.locator('[data-stage="sharp"]').first().waitFor({ timeout: 30000 });
await snap();
const lay = async (id: string) => {
  await page.click('[data-family="lay-out"]');
  await page.click(`[data-action="${id}"]`);
  await page.waitForTimeout(600);
  await page.keyboard.press('0');
  await snap();
};
await lay('settle-without-holes');
await lay('shelves-purpose');
await lay('shelves-hue');
await page.keyboard.press('$mod+a'.replace('$mod', 'Control'));
await page.waitForTimeout(200);
await lay('uncluster');
await lay('settle');
// three pictures into a cluster by marquee: select by clicking
const vp = await page.evaluate(() => {
  const s = window.miraderoStage!;
  return [...s.feed.itemsWithin(s.view)]
    .slice(0, 40)
    .map((i) => ({ id: i.id, k: i.kind, c: i.centre, w: i.width }));
});
const toPage = async (c: any) =>
  page.evaluate((c) => {
    const s = window.miraderoStage!;
    const r = s.canvas.getBoundingClientRect();
    return { x: r.left + (c.x - s.view.x) * s.camera.scale, y: r.top + (c.y - s.view.y) * s.camera.scale };
  }, c);
const pics = vp.filter((v) => v.k === 'placement' && v.w > 100).slice(0, 3);
await page.keyboard.press('Escape');
await page.keyboard.press('Escape');
for (const [i, p] of pics.entries()) {
  const q = await toPage(p.c);
  if (i > 0) await page.keyboard.down('Shift');
  await page.mouse.click(q.x, q.y);
  if (i > 0) await page.keyboard.up('Shift');
}
await page.keyboard.press('Control+g');
await page.waitForTimeout(300);
await page.keyboard.type('Hull and wheel');
await snap();
await page.keyboard.press('Enter');
await snap();
await page.keyboard.press('i');
await snap();
await page.keyboard.press('i');
await page.keyboard.press('Shift+F');
await snap();
const one = vp.filter((v) => v.k === 'placement' && v.w > 100).slice(4, 6);
await page.keyboard.press('Escape');
for (const [i, p] of one.entries()) {
  const q = await toPage(p.c);
  if (i > 0) await page.keyboard.down('Shift');
  await page.mouse.click(q.x, q.y);
  if (i > 0) await page.keyboard.up('Shift');
}
await page.keyboard.press('h');
await snap();
const W = 640,
  H = 400;
const tiles = await Promise.all(shots.map((s) => sharp(s).resize(W, H).toBuffer()));
await sharp({
  create: {
    width: W * 2 + 8,
    height: (H + 8) * Math.ceil(tiles.length / 2),
    channels: 3,
    background: '#f0f',
  },
})
  .composite(tiles.map((input, i) => ({ input, left: (i % 2) * (W + 8), top: Math.floor(i / 2) * (H + 8) })))
  .png()
  .toFile('/tmp/look.png');
console.log(copy.board.id);
await browser.close();

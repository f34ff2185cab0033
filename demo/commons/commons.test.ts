import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { GALLERIES, WORKS } from './catalog.ts';
import { crawl, type Visit, visit } from './crawl.ts';
import { INVENTED } from './pages.ts';
import { type RunningCommons, startCommons } from './server.ts';

/** The whole site, followed from its first page as a crawler would; every case of the web is met on the way. */
const SLOW_MS = 900;
/** Longer than the endless picture takes to come to what is too much. */
const PATIENCE_MS = 60_000;
let site: RunningCommons;
let visits: ReadonlyMap<string, Visit>;

const at = (path: string): Visit => {
  const found = visits.get(`${site.address}${path}`);
  if (!found) throw new Error(`no link leads to ${path}`);
  return found;
};
const pages = () => [...visits.values()].filter(({ type, status }) => type === 'text/html' && status === 200);

beforeAll(async () => {
  site = await startCommons(0, { slowMs: SLOW_MS });
  visits = await crawl(`${site.address}/`, PATIENCE_MS);
}, 5 * PATIENCE_MS);
afterAll(() => site.stop());

describe('Tidewrack Commons', () => {
  it('is on loopback only', () => {
    expect(new URL(site.address).hostname).toBe('127.0.0.1');
  });

  it('says on every page that it is invented', () => {
    expect(pages().length).toBeGreaterThan(30);
    for (const { body, address } of pages()) expect(body.toString(), address).toContain(INVENTED);
  });

  it('has three galleries, and a page for every work', () => {
    expect(Object.keys(GALLERIES)).toHaveLength(3);
    for (const gallery of Object.keys(GALLERIES)) {
      const works = WORKS.filter((work) => work.gallery === gallery);
      expect(works.length).toBeGreaterThan(4);
      for (const { id } of works) expect(at(`/gallery/${gallery}`).body.toString()).toContain(`/work/${id}`);
    }
    for (const { id, title, author } of WORKS) {
      const body = at(`/work/${id}`).body.toString();
      expect(body).toContain(title);
      expect(body).toContain(author);
      expect(body).toContain('rel="license"');
    }
  });

  it('describes a work by Open Graph and JSON-LD that agree with the file', async () => {
    for (const work of WORKS) {
      const body = at(`/work/${work.id}`).body.toString();
      const linked = JSON.parse(/<script type="application\/ld\+json">(.+?)<\/script>/.exec(body)![1]!);
      expect(linked.creator.name).toBe(work.author);
      expect(linked.license).toContain(`/licence/${work.licence}`);
      expect(body).toContain(`<meta property="og:image" content="${linked.contentUrl}">`);
      const { width, height } = await sharp((await visit(linked.contentUrl, PATIENCE_MS)).body).metadata();
      expect([width, height]).toEqual([linked.width, linked.height]);
    }
  });

  it('offers several sizes by srcset, each as wide as it says', async () => {
    const body = at('/work/ferry-low-sun').body.toString();
    const candidates = /srcset="([^"]+)"/
      .exec(body)![1]!
      .split(', ')
      .map((one) => one.split(' '));
    expect(candidates.length).toBe(4);
    for (const [address, word] of candidates) {
      const { width } = await sharp(at(address!).body).metadata();
      expect(`${width}w`).toBe(word);
    }
  });

  it('has works of which the large size is only linked', async () => {
    const body = at('/work/mist').body.toString();
    expect(body).not.toContain('srcset');
    const [, small] = /<img src="([^"]+)"/.exec(body.slice(body.indexOf('<figure>')))!;
    const [, large] = /<a href="(\/file\/full[^"]+)"/.exec(body)!;
    const { width: smallWidth } = await sharp(at(small!).body).metadata();
    const { width: largeWidth } = await sharp(at(large!).body).metadata();
    expect(largeWidth).toBeGreaterThan(3 * smallWidth);
  });

  it('answers a question with small pictures that lead to their pages, paid ones among them', async () => {
    const body = at('/search?q=ferry').body.toString();
    expect(body).toContain('class="price"');
    const thumbs = [...body.matchAll(/<a href="(\/work\/[^"]+)"><img src="([^"]+)"/g)];
    expect(thumbs.length).toBeGreaterThan(4);
    for (const [, page, picture] of thumbs) {
      expect((await sharp(at(picture!).body).metadata()).width).toBe(200);
      expect(at(page!).status).toBe(200);
    }
  });

  it('keeps the large size of a paid work to itself', async () => {
    const paid = WORKS.filter(({ offer }) => offer === 'paid');
    expect(paid.length).toBeGreaterThan(1);
    for (const { file } of paid) {
      const stem = file.replace(/\.\w+$/, '');
      expect((await visit(`${site.address}/file/full/${stem}.jpg`, PATIENCE_MS)).status).toBe(404);
    }
  });

  it('has lazy pictures, by attribute and by script', () => {
    const body = at('/lazy').body.toString();
    expect(body.match(/loading="lazy"/g)!.length).toBeGreaterThan(2);
    const later = [...body.matchAll(/data-src="([^"]+)"/g)];
    expect(later.length).toBeGreaterThan(2);
    for (const [, address] of later) expect(at(address!).type).toBe('image/jpeg');
  });

  it('has a slow picture', () => {
    expect(at('/file/slow.jpg').status).toBe(200);
    expect(at('/file/slow.jpg').ms).toBeGreaterThan(SLOW_MS * 0.95);
  });

  it('has broken ones: lost, failing, torn, empty', async () => {
    expect(at('/file/lost.jpg').status).toBe(404);
    expect(at('/file/failing.jpg').status).toBe(500);
    expect(at('/file/empty.jpg').body.length).toBe(0);
    const torn = sharp(at('/file/torn.jpg').body, { failOn: 'truncated' }).raw().toBuffer();
    await expect(torn).rejects.toThrow();
  });

  it('has pages and pictures that moved, and one that moves for ever', () => {
    expect(at('/old/wheel').via).toHaveLength(1);
    expect(at('/old/wheel').address).toBe(`${site.address}/work/wheel`);
    expect(at('/file/moved.jpg').via).toHaveLength(2);
    expect(at('/file/moved.jpg').type).toBe('image/jpeg');
    expect(at('/file/around.jpg').status).toBe(302);
  });

  it('has files that lie about what they are', async () => {
    const lying = at('/file/lying.jpg');
    expect(lying.type).toBe('image/jpeg');
    expect(lying.body.toString()).toContain('<!doctype html>');
    const modest = at('/file/modest.txt');
    expect(modest.type).toBe('text/plain');
    expect((await sharp(modest.body).metadata()).format).toBe('jpeg');
  });

  it('has a picture that never ends', () => {
    const endless = at('/file/endless.jpg');
    expect(endless.isCut).toBe(true);
    expect(endless.body.length).toBeGreaterThan(100_000);
  });

  it('forbids foreign scripts on its galleries', async () => {
    const response = await fetch(`${site.address}/gallery/marsh`);
    expect(response.headers.get('content-security-policy')).toContain("script-src 'none'");
  });
});

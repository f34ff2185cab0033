import { describe, expect, it } from 'vitest';
import { readPagePictures } from './page-pictures.ts';
import { parsePage } from './page-tree.ts';

const marksOn = (html: string) =>
  Object.fromEntries(
    readPagePictures(parsePage(html), 'https://marsh.example/').map(({ shown, marks }) => [
      new URL(shown.address).pathname.slice(1),
      [...marks].sort(),
    ]),
  );

describe('what a page says of a picture', () => {
  it('is a price, beside that picture alone', () => {
    const found = marksOn(`<ul>
      <li><a href="/a"><img src="a.jpg">Rope</a> <small>Wren · <span class="price">nine shells</span></small></li>
      <li><a href="/b"><img src="b.jpg">Chain</a> <small>Wren</small></li>
      <li><img src="c.jpg"> Wheel, €4.50</li>
      <li><img src="d.jpg"> Wheel, 450 mm</li>
      <li><img src="e.jpg"><meta itemprop="price" content="3"></li>
      <li><img src="f.jpg"><meta itemprop="isAccessibleForFree" content="False"></li>
    </ul>`);
    expect(found).toEqual({
      ...{ 'a.jpg': ['costs'], 'b.jpg': [], 'c.jpg': ['costs'], 'd.jpg': [] },
      ...{ 'e.jpg': ['costs'], 'f.jpg': ['costs'] },
    });
  });

  it('is a watermark, a licence that is needed, or several of them', () => {
    const found = marksOn(`<div>
      <figure><img src="files/watermarked/a.jpg"></figure>
      <figure><img class="shot watermark" src="b.jpg"></figure>
      <figure><img src="c.jpg"><figcaption>A licence is required. £20</figcaption></figure>
      <figure><img src="d.jpg"><a itemprop="acquireLicensePage" href="/buy">ask</a></figure>
      <figure><img src="e.jpg"><figcaption>Open licence, use it as you like</figcaption></figure>
    </div>`);
    expect(found).toEqual({
      'files/watermarked/a.jpg': ['watermarked'],
      ...{ 'b.jpg': ['watermarked'], 'c.jpg': ['costs', 'licence'], 'd.jpg': ['licence'], 'e.jpg': [] },
    });
  });

  it('is not what a whole page says somewhere', () => {
    const text = 'Long words about the ferry. '.repeat(40);
    expect(marksOn(`<main><img src="a.jpg"><p>${text} Prints from $12.</p></main>`)).toEqual({ 'a.jpg': [] });
    expect(marksOn('<body><img src="a.jpg"><p>$12</p></body>')).toEqual({ 'a.jpg': [] });
  });

  it('is read from a page of ten thousand pictures, and from one nested deeply', () => {
    const many = Array.from({ length: 10_000 }, (_, n) => `<li><img src="${n}.jpg"><b>$${n}</b></li>`).join(
      '',
    );
    const found = marksOn(`<ul>${many}</ul>`);
    expect(Object.keys(found)).toHaveLength(10_000);
    expect(found['77.jpg']).toEqual(['costs']);
    expect(marksOn(`${'<div>'.repeat(3_000)}<img src="deep.jpg">`)).toEqual({ 'deep.jpg': [] });
  });
});

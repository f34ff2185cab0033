import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  candidatesOfSrcset,
  copyBetween,
  hashDistance,
  largestOfSrcset,
  likenessHashOf,
  mirroredHash,
  nextOfSeries,
  PRINT_BYTES,
  printOf,
  readableName,
} from './index.ts';

describe('a name made readable', () => {
  it('has words apart, and neither sizes nor endings', () => {
    expect(readableName('winch-house_at-low-tide-1280x800.JPG')).toBe('winch house at low tide');
    expect(readableName('storm%20lantern@2x.png')).toBe('storm lantern');
    expect(readableName('/file/full/chain-wheel-full.jpg')).toBe('chain wheel');
    expect(readableName('Fähre Nr. 7.webp')).toBe('Fähre Nr. 7');
    expect(readableName('picture of a boat.png')).toBe('picture of a boat');
    expect(readableName('100 % wool.png')).toBe('100 % wool');
  });

  it('is none where a machine gave it', () => {
    const names = [
      'IMG_0412.JPG',
      'DSC00731.JPG',
      'P1080266.JPG',
      'PXL_20260512_071455.jpg',
      '20260512_071455.jpg',
      'Screenshot 2026-05-12 at 07.14.55.png',
      'untitled.png',
      'image (3).png',
      'download.jpeg',
      'a94a8fe5ccb19ba61c4c0873d391e987982fbbd3.jpg',
      '3f1c6e0a-6a2f-4f0e-9d55-0a3c2f4c1b7d.webp',
      'x7Gh2kQ9_pL0aZ3mN5vB.jpg',
      '.png',
    ];
    for (const name of names) expect(readableName(name), name).toBeUndefined();
  });

  it('goes on where a series stands', () => {
    expect(nextOfSeries('Ferry', [])).toBe('Ferry 1');
    expect(nextOfSeries('Ferry', ['Ferry', 'Ferry 3', 'Ferry x', 'Ferryman 9'])).toBe('Ferry 4');
    expect(nextOfSeries('', [])).toBe('Picture 1');
  });

  it('survives any text', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary' }), (text) => void readableName(text)));
  });
});

describe('srcset', () => {
  const base = 'http://site.example/a/page';
  it('offers addresses with widths or densities, commas in them or not', () => {
    expect(candidatesOfSrcset('small.jpg 320w, /big,1.jpg 1280w,plain.jpg', base)).toEqual([
      { address: 'http://site.example/a/small.jpg', width: 320 },
      { address: 'http://site.example/big,1.jpg', width: 1280 },
      { address: 'http://site.example/a/plain.jpg' },
    ]);
    expect(largestOfSrcset('a.jpg, b.jpg 2x, c.jpg 1.5x', base)?.address).toBe('http://site.example/a/b.jpg');
    expect(largestOfSrcset('a.jpg 900w, b.jpg 1600w', base)?.width).toBe(1600);
    expect(largestOfSrcset('', base)).toBeUndefined();
  });

  it('survives any text', () => {
    fc.assert(fc.property(fc.string(), (text) => void candidatesOfSrcset(text, base)));
  });
});

/** A scene of soft blobs, seen through a part of itself. */
function scene(seed: number, part = { x: 0, y: 0, width: 1, height: 1 }, isMirrored = false, side = 128) {
  const blobs = Array.from({ length: 14 }, (_, index) => {
    const random = (salt: number) => (Math.sin(seed * 91.7 + index * 17.3 + salt * 7.1) * 43758.5453) % 1;
    return {
      x: Math.abs(random(1)),
      y: Math.abs(random(2)),
      size: 0.03 + 0.1 * Math.abs(random(3)),
      tone: random(4),
    };
  });
  const data = new Uint8ClampedArray(side * side * 4);
  for (let row = 0; row < side; row += 1)
    for (let column = 0; column < side; column += 1) {
      const across = (column + 0.5) / side;
      const x = part.x + part.width * (isMirrored ? 1 - across : across);
      const y = part.y + (part.height * (row + 0.5)) / side;
      let tone = 110;
      for (const blob of blobs)
        tone += 120 * blob.tone * Math.exp(-((x - blob.x) ** 2 + (y - blob.y) ** 2) / blob.size ** 2);
      data.set([tone, tone, tone, 255], (row * side + column) * 4);
    }
  return { width: side, height: side, data };
}

describe('likeness', () => {
  const print = printOf(scene(1));

  it('finds a picture again when it is smaller, cropped or mirrored, and says which', () => {
    expect(print).toHaveLength(PRINT_BYTES);
    expect(copyBetween(print, printOf(scene(1, undefined, false, 61)))).toMatchObject({ isMirrored: false });
    expect(copyBetween(print, printOf(scene(1, undefined, true)))).toMatchObject({ isMirrored: true });
    const cut = { x: 0.05, y: 0.02, width: 0.9, height: 0.93 };
    expect(copyBetween(print, printOf(scene(1, cut)))).toMatchObject({ isMirrored: false });
    expect(copyBetween(printOf(scene(1, cut)), print)).toMatchObject({ isMirrored: false });
  });

  it('tells different pictures apart', () => {
    for (let seed = 2; seed < 12; seed += 1) expect(copyBetween(print, printOf(scene(seed)))).toBeUndefined();
  });

  it('knows the hash of the mirrored picture without its pixels', () => {
    const hash = likenessHashOf(print);
    expect(hash).toMatch(/^[0-9a-f]{16}$/);
    expect(hashDistance(mirroredHash(hash), likenessHashOf(printOf(scene(1, undefined, true))))).toBeLessThan(
      4,
    );
    expect(mirroredHash(mirroredHash(hash))).toBe(hash);
    expect(hashDistance('0000000000000000', 'ffffffffffffffff')).toBe(64);
  });

  it('takes no flat fields for copies', () => {
    const field = (tone: number) =>
      printOf({ width: 8, height: 8, data: new Uint8ClampedArray(256).fill(tone) });
    expect(copyBetween(field(90), field(90))).toBeUndefined();
  });

  it('takes transparency as middle grey', () => {
    const clear = { width: 8, height: 8, data: new Uint8ClampedArray(256) };
    expect([...printOf(clear)].every((cell) => cell === 128)).toBe(true);
  });
});

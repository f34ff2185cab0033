import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { motionOfBytes } from './index.ts';

const text = (letters: string) => [...letters].map((letter) => letter.charCodeAt(0));
const u32 = (value: number) => [24, 16, 8, 0].map((shift) => (value >>> shift) & 255);
const u16 = (value: number) => [value >> 8, value & 255];
const box = (type: string, ...content: number[][]): number[] => {
  const body = content.flat();
  return [...u32(body.length + 8), ...text(type), ...body];
};
const zeros = (count: number) => new Array<number>(count).fill(0);
const bytes = (...parts: number[][]) => Uint8Array.from(parts.flat());

/** A track header: full box, times, id, duration, and 16.16 sides behind the matrix. */
const tkhd = (matrix: number[], width: number, height: number) =>
  box('tkhd', zeros(40), matrix.flatMap(u32), u32(width << 16), u32(height << 16));
const UPRIGHT = [0x10000, 0, 0, 0, 0x10000, 0, 0, 0, 0x40000000];
const TURNED = [0, 0x10000, 0, 0xffff0000, 0, 0, 0, 0, 0x40000000];
const mdhd = (scale: number, duration: number) => box('mdhd', zeros(12), u32(scale), u32(duration), zeros(4));
const hdlr = (kind: string) => box('hdlr', zeros(8), text(kind), zeros(12));
const stsz = (count: number) => box('minf', box('stbl', box('stsz', zeros(8), u32(count))));
const movie = (kind: string, matrix: number[], frames: number) =>
  bytes(
    box('ftyp', text('isom'), zeros(4)),
    box('mdat', zeros(30)),
    box(
      'moov',
      box('mvhd', zeros(100)),
      box('trak', tkhd(UPRIGHT, 0, 0), box('mdia', hdlr('soun'), mdhd(48_000, 96_000))),
      box('trak', tkhd(matrix, 640, 360), box('mdia', hdlr(kind), mdhd(600, 1500), stsz(frames))),
    ),
  );

describe('ISO media', () => {
  it('says size, frames and duration of its moving track, wherever its description lies', () => {
    expect(motionOfBytes(movie('vide', UPRIGHT, 60), 'video/mp4')).toEqual({
      ...{ width: 640, height: 360, frames: 60, durationMs: 2500 },
    });
    expect(motionOfBytes(movie('pict', UPRIGHT, 12), 'image/avif')).toMatchObject({ frames: 12 });
  });

  it('is turned where its matrix says so', () => {
    expect(motionOfBytes(movie('vide', TURNED, 1), 'video/mp4')).toMatchObject({ width: 360, height: 640 });
  });

  it('without a moving track, cut short or with false lengths has no motion', () => {
    expect(motionOfBytes(movie('soun', UPRIGHT, 9), 'video/mp4')).toBeUndefined();
    const whole = movie('vide', UPRIGHT, 9);
    for (let length = 0; length < whole.length; length += 7)
      expect(() => motionOfBytes(whole.subarray(0, length), 'video/mp4')).not.toThrow();
    fc.assert(
      fc.property(fc.nat(whole.length - 1), fc.integer({ min: 0, max: 255 }), (at, value) => {
        const bent = whole.slice();
        bent[at] = value;
        motionOfBytes(bent, 'video/mp4');
      }),
    );
  });
});

describe('WebM', () => {
  const element = (id: number[], content: number[]) => [
    ...id,
    0x40 | (content.length >> 8),
    content.length & 255,
    ...content,
  ];
  const float = (value: number) => [...new Uint8Array(new Float64Array([value]).buffer)].reverse();
  const video = element([0xe0], [...element([0xb0], u16(1280)), ...element([0xba], u16(720))]);
  const track = element([0xae], [...element([0x23, 0xe3, 0x83], u32(40_000_000)), ...video]);
  const head = element([0x1a, 0x45, 0xdf, 0xa3], element([0x42, 0x82], text('webm')));
  const facts = element(
    [0x15, 0x49, 0xa9, 0x66],
    [...element([0x2a, 0xd7, 0xb1], u32(1_000_000)), ...element([0x44, 0x89], float(4000))],
  );
  // A segment of unknown length, as recorders write it.
  const segment = [0x18, 0x53, 0x80, 0x67, 0x01, ...new Array<number>(7).fill(255)];
  const file = bytes(
    head,
    segment,
    facts,
    element([0x16, 0x54, 0xae, 0x6b], track),
    [0x1f, 0x43, 0xb6, 0x75, 0xff],
  );

  it('says size, duration and frames in its head', () => {
    expect(motionOfBytes(file, 'video/webm')).toEqual({
      width: 1280,
      height: 720,
      durationMs: 4000,
      frames: 100,
    });
  });

  it('survives any bytes', () => {
    fc.assert(
      fc.property(fc.nat(file.length - 1), fc.uint8Array({ minLength: 1, maxLength: 9 }), (at, bent) => {
        const spoilt = file.slice();
        spoilt.set(bent.subarray(0, spoilt.length - at), at);
        motionOfBytes(spoilt, 'video/webm');
      }),
    );
  });
});

describe('PNG', () => {
  const chunk = (type: string, content: number[]) => [
    ...u32(content.length),
    ...text(type),
    ...content,
    ...zeros(4),
  ];
  const frame = (numerator: number, parts: number) =>
    chunk('fcTL', [...zeros(20), ...u16(numerator), ...u16(parts), 0, 0]);
  const start = zeros(8);

  it('moves when it announces frames before its pixels; no time at all is a hundredth', () => {
    const file = bytes(
      start,
      chunk('acTL', [...u32(3), ...u32(0)]),
      frame(1, 4),
      chunk('IDAT', [0]),
      frame(50, 0),
      frame(0, 100),
    );
    expect(motionOfBytes(file, 'image/png')).toEqual({ frames: 3, durationMs: 760 });
    expect(
      motionOfBytes(bytes(start, chunk('IDAT', [0]), chunk('acTL', u32(3))), 'image/png'),
    ).toBeUndefined();
  });

  it('survives any bytes', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 200 }), (any) => void motionOfBytes(any, 'image/png')));
  });
});

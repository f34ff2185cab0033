import { describe, expect, it } from 'vitest';
import { JOB_KINDS, LEVELS, PREVIEW } from './kinds.ts';
import { sendOptions } from './queue.ts';

const PICTURE = 'c0000000-0000-4000-8000-000000000000';

describe('kinds of jobs', () => {
  it('have names of their own, attempts that end, and a time after which they are lost', () => {
    expect(new Set(JOB_KINDS.map(({ name }) => name)).size).toBe(JOB_KINDS.length);
    for (const { attempts, expiresS, atOnce } of JOB_KINDS) {
      expect(attempts).toBeGreaterThan(0);
      expect(atOnce).toBeGreaterThan(0);
      expect(expiresS).toBeGreaterThanOrEqual(60);
    }
  });

  it('take no payload that they cannot have', () => {
    expect(sendOptions(LEVELS, { picture: PICTURE })).toEqual({});
    for (const wrong of [{}, { picture: 'x' }, { picture: PICTURE, more: 1 }, { board: PICTURE }])
      expect(() => sendOptions(LEVELS, wrong as { picture: string })).toThrow(
        /a job of kind levels cannot be given/,
      );
  });

  it('gather what is asked for within their time, by what they are given', () => {
    const [one, two] = [PICTURE, PICTURE.replace('c', 'd')].map((board) => sendOptions(PREVIEW, { board }));
    expect(one!.startAfter).toBe(PREVIEW.gathersS);
    expect(one!.startAfter).toBeGreaterThan(0);
    expect(one!.singletonKey).not.toBe(two!.singletonKey);
    expect(sendOptions(LEVELS, { picture: PICTURE }, { afterS: 5 })).toMatchObject({ startAfter: 5 });
  });
});

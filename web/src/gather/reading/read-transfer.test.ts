import { describe, expect, it } from 'vitest';
import { readLines } from '../sheets/address-sheet.tsx';
import { addressesIn, readClipboard, readDragged } from './read-transfer.ts';

describe('a text', () => {
  it('of addresses alone is a list of them; remarks do not count', () => {
    expect(addressesIn('http://a.example/x\r\n# seen there\nhttps://b.example/')).toEqual([
      'http://a.example/x',
      'https://b.example/',
    ]);
    for (const other of ['', 'see http://a.example', 'ftp://a.example', 'javascript:alert(1)', 'http://'])
      expect(addressesIn(other), other).toBeUndefined();
  });

  it('of anything else is a text, and an address is something to look at', () => {
    expect(readClipboard([], '', ' the mast leans ')).toEqual([{ kind: 'text', text: 'the mast leans' }]);
    expect(readClipboard([], '', 'http://a.example/x')).toEqual([
      { kind: 'address', address: 'http://a.example/x', isPicture: false },
    ]);
    expect(readClipboard([], '', '  ')).toEqual([]);
    expect(readDragged('', 'http://a.example/x\n', 'x')).toMatchObject([{ kind: 'address' }]);
  });

  it('typed as an address is meant as one, with or without http', () => {
    expect(readLines('tidewrack.example/work/7\n\n http://a.example ')).toEqual({
      addresses: ['https://tidewrack.example/work/7', 'http://a.example'],
      unread: [],
    });
    expect(readLines('a.example\nthe mast')).toEqual({
      addresses: ['https://a.example'],
      unread: ['the mast'],
    });
  });

  it('that calls every picture the same is no name', () => {
    const [one] = readClipboard([new File(['x'], 'image.png', { type: 'image/png' })], '', '');
    expect(one).toMatchObject({ kind: 'file', file: { name: 'Pasted picture.png' } });
  });
});

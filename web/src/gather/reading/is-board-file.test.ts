import { type Zippable, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { isBoardFile } from './is-board-file.ts';

const zip = (files: Zippable) => new Blob([zipSync(files) as Uint8Array<ArrayBuffer>]);
const some = new TextEncoder().encode('{}');

describe('a board file', () => {
  it('is told from other archives by what it lists, wherever that stands in it', async () => {
    expect(await isBoardFile(zip({ 'board.json': some }))).toBe(true);
    expect(await isBoardFile(zip({ 'a.jpg': some, 'Ferry form/board.json': some, 'z.txt': some }))).toBe(
      true,
    );
    expect(await isBoardFile(zip({ 'a/b/board.json': some }))).toBe(false);
    expect(await isBoardFile(zip({ 'my-board.json': some, 'board.json.txt': some }))).toBe(false);
    expect(await isBoardFile(zip({ 'a.txt': new TextEncoder().encode('board.json') }))).toBe(false);
    expect(await isBoardFile(new Blob([]))).toBe(false);
    expect(await isBoardFile(new Blob(['PK\u0001\u0002board.json']))).toBe(false);
  });
});

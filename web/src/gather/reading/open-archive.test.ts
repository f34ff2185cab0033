import { type Zippable, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { ArchiveError, isArchive, openArchive } from './open-archive.ts';

const archive = (files: Zippable, name = 'gear.zip') =>
  new File([zipSync(files) as Uint8Array<ArrayBuffer>], name);
const bytes = (text: string) => new TextEncoder().encode(text);

describe('an archive', () => {
  it('is known by its head, not by its name', async () => {
    expect(await isArchive(archive({ 'a.jpg': bytes('a') }, 'photo.jpg'))).toBe(true);
    expect(await isArchive(new File(['PNG'], 'x.zip'))).toBe(false);
    expect(await isArchive(new File([], 'x.zip'))).toBe(false);
  });

  it('gives its files by their last name alone, whatever paths it holds', async () => {
    const files = await openArchive(
      archive({
        'deep/er/reed.jpg': bytes('one'),
        '../../etc/mast.png': bytes('two'),
        '..\\..\\lamp.gif': bytes('three'),
        '/wheel.webp': bytes('four'),
        'deep/.hidden.jpg': bytes('no'),
        '__MACOSX/deep/._reed.jpg': bytes('no'),
        'folder/': new Uint8Array(),
      }),
    );
    expect(files.map(({ name }) => name).sort()).toEqual(['lamp.gif', 'mast.png', 'reed.jpg', 'wheel.webp']);
    expect(await files.find(({ name }) => name === 'reed.jpg')!.text()).toBe('one');
  });

  it('that is damaged, or lies about its sizes, is refused in words', async () => {
    const packed = zipSync({ 'a.jpg': new Uint8Array(200_000) });
    const cut = new File([packed.slice(0, packed.length - 40)], 'cut.zip');
    await expect(openArchive(cut)).rejects.toThrow(/^The archive cannot be unpacked/);
    const lying = packed.slice();
    const view = new DataView(lying.buffer);
    // The size that it will unpack to, in the central directory (offset 24) and in the local header (22): ten bytes.
    const directory = packed.length - 22 - (46 + 5);
    view.setUint32(directory + 24, 10, true);
    view.setUint32(22, 10, true);
    const opened = await openArchive(new File([lying as Uint8Array<ArrayBuffer>], 'lying.zip')).catch(
      (error) => error,
    );
    if (!(opened instanceof ArchiveError))
      for (const file of opened) expect(file.size).toBeLessThanOrEqual(10);
  });

  it('with something larger than a picture may be gives the others', async () => {
    const packed = zipSync({ 'bomb.png': bytes('small'), 'good.jpg': bytes('good') });
    const view = new DataView(packed.buffer);
    const first = packed.findIndex((_, at) => view.getUint32(at, true) === 0x02014b50);
    view.setUint32(first + 24, 200 * 1024 * 1024, true);
    const files = await openArchive(new File([packed as Uint8Array<ArrayBuffer>], 'bomb.zip'));
    expect(files.map(({ name }) => name)).toEqual(['good.jpg']);
  });

  it('with more in it than can be taken in at once is refused whole', async () => {
    const many = Object.fromEntries(
      Array.from({ length: 5_001 }, (_, index) => [`${index}.jpg`, bytes('x')]),
    );
    await expect(openArchive(archive(many))).rejects.toThrow(/More would come out of the archive/);
  }, 120_000);

  it('says in words that a file went away while it was opened', async () => {
    const file = new File(['x'], 'gone.zip');
    file.arrayBuffer = () => Promise.reject(new DOMException('gone', 'NotFoundError'));
    await expect(openArchive(file)).rejects.toThrow(/moved, or taken away/);
    await expect(openArchive(file)).rejects.toBeInstanceOf(ArchiveError);
  });
});

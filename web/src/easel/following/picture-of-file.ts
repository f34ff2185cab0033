import { mayBeWhole, TAIL_BYTES } from '@miradero/core/easel';
import { isZip } from '@miradero/core/model';
import { unzipSync } from 'fflate';

/** What stands for the whole picture in an OpenRaster file. Source: OpenRaster file layout, "mergedimage.png". */
const MERGED = 'mergedimage.png';
const HEAD_BYTES = 16;

/**
 * The picture that a saved file shows: itself, or the merged one of an OpenRaster file. Whether it decodes is not known yet.
 *
 * @returns undefined while it is no picture, or by its ends no whole one: another program may still be writing it
 */
export async function pictureOfFile(file: File): Promise<File | undefined> {
  const part = async (from: number, to?: number) => new Uint8Array(await file.slice(from, to).arrayBuffer());
  const head = await part(0, HEAD_BYTES);
  const tail = await part(Math.max(0, file.size - TAIL_BYTES));
  if (!mayBeWhole(head, tail, file.size)) return undefined;
  return isZip(head) ? merged(await part(0), file.name) : file;
}

function merged(bytes: Uint8Array, name: string): File | undefined {
  try {
    const files = unzipSync(bytes, { filter: (entry) => entry.name === MERGED });
    const png = files[MERGED];
    return png && new File([new Uint8Array(png)], `${name}.png`, { type: 'image/png' });
  } catch {
    return undefined;
  }
}

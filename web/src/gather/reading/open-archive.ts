import { fileNameIn, isZip } from '@miradero/core/model';
import { INTAKE_LIMITS } from '@miradero/core/picture';
import { type Unzipped, unzip } from 'fflate';

/** What an archive may unpack to, all together: a folder of 300 photographs has about this. */
const MOST_BYTES = 2 * 1024 * 1024 * 1024;
const MOST_FILES = 5_000;

export class ArchiveError extends Error {}

/** Whether a file is a ZIP archive, by how it begins. */
export const isArchive = async (file: Blob): Promise<boolean> =>
  isZip(new Uint8Array(await file.slice(0, 4).arrayBuffer()));

/**
 * Unpacks an archive in a worker. What it says of its sizes decides whether it is opened at all; what comes out larger
 * than said is left out by the unpacker.
 *
 * @throws ArchiveError with words for the person who brought it
 */
export async function openArchive(archive: File): Promise<File[]> {
  const packed = await archive.arrayBuffer().then(
    (bytes) => new Uint8Array(bytes),
    () => {
      throw new ArchiveError('The archive cannot be read: it was moved, or taken away, while it was opened.');
    },
  );
  let bytes = 0;
  let count = 0;
  const unpacked = await new Promise<Unzipped>((resolve, reject) => {
    unzip(
      packed,
      {
        filter: ({ name, originalSize }) => {
          const base = fileNameIn(name);
          const isWanted = base !== '' && !base.startsWith('.') && !name.includes('__MACOSX/');
          if (!isWanted || originalSize > INTAKE_LIMITS.bytes) return false;
          bytes += originalSize;
          count += 1;
          return bytes <= MOST_BYTES && count <= MOST_FILES;
        },
      },
      (error, files) => (error ? reject(error) : resolve(files)),
    );
  }).catch(() => {
    throw new ArchiveError('The archive cannot be unpacked: it is damaged or incomplete.');
  });
  if (bytes > MOST_BYTES || count > MOST_FILES)
    throw new ArchiveError('More would come out of the archive than can be taken in at once.');
  return Object.entries(unpacked).map(
    ([path, content]) => new File([content as Uint8Array<ArrayBuffer>], fileNameIn(path)),
  );
}

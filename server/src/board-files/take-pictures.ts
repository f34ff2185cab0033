import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { INTAKE_LIMITS, pictureIdOf, REFUSALS } from '@miradero/core/picture';
import type { BoardFilePicture, LeftOut, PatchPicture, Picture } from '@miradero/core/schema';
import { findPicture, patchPicture } from '../database/pictures.ts';
import type { ReceivedFile } from '../intake/receive-upload.ts';
import { type Intake, takeIn } from '../intake/take-in.ts';
import { type OpenZip, ZipError } from './open-zip.ts';

/** What pictures of a board file are here, by their ids there. */
export interface TakenPictures {
  readonly here: ReadonlyMap<string, { readonly id: string; readonly picture: Picture | undefined }>;
  /** That came in just now. */
  readonly count: number;
  readonly leftOut: readonly LeftOut[];
}

/** Lays an entry of a ZIP down as a file of the folder. @throws ZipError */
async function layDown(zip: OpenZip, name: string, path: string, fileName: string): Promise<ReceivedFile> {
  const told = zip.sizeOf(name) ?? 0;
  if (told > INTAKE_LIMITS.bytes) throw new ZipError(REFUSALS['too-many-bytes']);
  const hash = createHash('sha256');
  let bytes = 0;
  const counting = new Transform({
    transform(piece: Buffer, _encoding, done) {
      bytes += piece.length;
      hash.update(piece);
      done(null, piece);
    },
  });
  try {
    await pipeline(await zip.stream(name), counting, createWriteStream(path));
  } catch (error) {
    if (error instanceof ZipError || (error as NodeJS.ErrnoException).code === 'ENOSPC') throw error;
    throw new ZipError(`“${name}” cannot be unpacked.`, { cause: error });
  }
  return { fileName, path, bytes, sha256: hash.digest('hex'), isCutOff: false };
}

/** What a person said of it there; nothing that is known here is written over. */
const saidOf = ({ useMark, note, tags, purposes, pile, isToScale, stance }: BoardFilePicture): PatchPicture =>
  Object.fromEntries(
    Object.entries({ useMark, note, tags, purposes, pile, isToScale, stance }).filter(
      ([, value]) => value !== undefined,
    ),
  );

export interface TakingPictures {
  readonly intake: Intake;
  readonly zip: OpenZip;
  /** In which the paths of the file begin. */
  readonly inZip: string;
  /** For what is laid down meanwhile. */
  readonly folder: string;
  readonly tell: (share: number) => void;
}

/** One picture: the same bytes are the same picture, also where only a copy is in the file. */
async function takeOne(
  { intake, zip, inZip, folder }: TakingPictures,
  told: BoardFilePicture,
  index: number,
): Promise<{ id: string; picture: Picture | undefined; isNew: boolean }> {
  const { knex, owner } = intake;
  const own = pictureIdOf(owner, told.original.sha256);
  const known = await findPicture(knex, owner, own);
  if (known) return { id: own, picture: known, isNew: false };
  if (told.file === null) return { id: own, picture: undefined, isNew: false };
  const file = await layDown(
    zip,
    `${inZip}${told.file}`,
    join(folder, String(index)),
    told.original.fileName,
  );
  if (told.copy === null && file.sha256 !== told.original.sha256)
    throw new ZipError('Its bytes are not those that the file tells of.');
  const poster = told.poster
    ? await layDown(zip, `${inZip}${told.poster}`, join(folder, `${index}-poster`), 'poster.webp')
    : undefined;
  const about = { name: told.name, source: told.source };
  const {
    pictures,
    known: before,
    refused,
  } = await takeIn(intake, [file], about, { poster, tooMany: false });
  const [picture] = pictures;
  if (!picture) throw new ZipError(refused[0]?.title ?? 'It could not be taken in.');
  const isNew = !before.includes(picture.id);
  if (isNew) await patchPicture(knex, owner, picture.id, saidOf(told));
  return { id: picture.id, picture, isNew };
}

/** Takes in the pictures of a board file that are not here, one after the other. One that cannot be taken is left out alone. */
export async function takePictures(
  taking: TakingPictures,
  pictures: readonly BoardFilePicture[],
): Promise<TakenPictures> {
  const here = new Map<string, { id: string; picture: Picture | undefined }>();
  const leftOut: LeftOut[] = [];
  let count = 0;
  for (const [index, told] of pictures.entries()) {
    const awaited = pictureIdOf(taking.intake.owner, told.original.sha256);
    try {
      const { isNew, ...one } = await takeOne(taking, told, index);
      here.set(told.id, one);
      if (isNew) count += 1;
    } catch (error) {
      if (!(error instanceof ZipError)) throw error;
      // It stands there all the same, without its pixels.
      here.set(told.id, { id: awaited, picture: undefined });
      leftOut.push({ what: `The picture “${told.name}”`, why: error.message });
    }
    taking.tell((index + 1) / pictures.length);
  }
  return { here, count, leftOut };
}

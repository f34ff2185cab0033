import { nameOfFile, pictureIdOf, REFUSALS, type RefusalCode } from '@miradero/core/picture';
import type { IntakeAnswer, Picture, RefusedFile } from '@miradero/core/schema';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { addPicture, findPicture } from '../database/pictures.ts';
import { LEVELS_QUEUE, type Queue } from '../jobs/queue.ts';
import { storeFile } from '../storage/blob-store.ts';
import { type Examined, examineFile } from './examine-file.ts';
import type { ReceivedFile } from './receive-upload.ts';

const refuse = (fileName: string, code: RefusalCode): RefusedFile => ({
  fileName,
  code,
  title: REFUSALS[code],
});

/** Bytes, picture and the job that makes its levels: all of it, or nothing. */
async function keep(
  knex: Knex,
  queue: Queue,
  owner: string,
  file: ReceivedFile,
  facts: Examined,
): Promise<Picture> {
  const id = pictureIdOf(owner, file.sha256);
  await knex.transaction(async (trx) => {
    await storeFile(trx, file.path, file.sha256, { bytes: file.bytes, type: facts.type });
    const isNew = await addPicture(trx, owner, {
      id,
      name: nameOfFile(file.fileName),
      fileName: file.fileName.slice(0, 1000),
      bytes: file.bytes,
      sha256: file.sha256,
      ...facts,
    });
    if (!isNew) return;
    await queue.send(trx, LEVELS_QUEUE, { picture: id });
    await notifyNews(trx, owner, { kind: 'picture', picture: id });
  });
  return (await findPicture(knex, owner, id))!;
}

/** Takes in what can be taken of `files`, each alone; the same bytes are the same picture. */
export async function takeIn(
  knex: Knex,
  queue: Queue,
  owner: string,
  files: readonly ReceivedFile[],
  tooMany: boolean,
): Promise<IntakeAnswer> {
  const pictures: Picture[] = [];
  const refused: RefusedFile[] = [];
  for (const file of files) {
    const examined = await examineFile(file);
    if (typeof examined === 'string') refused.push(refuse(file.fileName, examined));
    else pictures.push(await keep(knex, queue, owner, file, examined));
  }
  if (tooMany) refused.push(refuse('', 'too-many-files'));
  return { pictures, refused };
}

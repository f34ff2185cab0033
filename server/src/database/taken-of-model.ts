import type { TakenOfModel } from '@miradero/core/schema';
import { viewTaken } from '@miradero/core/subject';
import type { Knex } from './connection.ts';
import { patchPicture } from './pictures.ts';
import { listSubjects } from './subjects.ts';

/** Gives a picture that was taken of a model to what the model serves, with its figures; what was said of its view stays. */
export async function serveAsModel(
  trx: Knex,
  owner: string,
  picture: string,
  taken: TakenOfModel,
): Promise<void> {
  const model = await trx('pictures').where({ owner, id: taken.model }).first('parts');
  const parts: readonly string[] = model?.parts ?? [];
  if (parts.length === 0) return;
  const subjects = (await listSubjects(trx, owner)).filter(({ id, parts: own }) =>
    [id, ...own.flatMap((part) => [part.id, ...part.parts.map((inner) => inner.id)])].some((one) =>
      parts.includes(one),
    ),
  );
  const view = { ...viewTaken(taken), distance: null };
  await patchPicture(trx, owner, picture, {
    addParts: [...parts],
    fillViews: Object.fromEntries(subjects.map(({ id }) => [id, view])),
  });
}

import { librariesOfObj, materialsOfMtl } from '@miradero/core/model';

/** Libraries are named at the head of an OBJ. */
const HEAD_BYTES = 64 * 1024;

/** Whether what came out of an archive is one model with its surface. @returns what is no part of it; undefined where it is none */
export async function modelAmong(
  files: readonly File[],
): Promise<{ readonly others: readonly File[] } | undefined> {
  const objects = files.filter(({ name }) => /\.obj$/i.test(name));
  const [model] = objects;
  if (!model || objects.length > 1) return undefined;
  const libraries = librariesOfObj(await model.slice(0, HEAD_BYTES).text()).map((name) => name.toLowerCase());
  const own = new Set([model.name.toLowerCase(), ...libraries]);
  for (const file of files)
    if (libraries.includes(file.name.toLowerCase()))
      for (const { picture } of materialsOfMtl(await file.text()))
        if (picture) own.add(picture.toLowerCase());
  return { others: files.filter(({ name }) => !own.has(name.toLowerCase()) && !/\.mtl$/i.test(name)) };
}

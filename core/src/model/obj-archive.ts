import { type UnzipFileInfo, unzipSync } from 'fflate';
import { MODEL_LIMITS, type ModelLook, type ModelTrouble } from './look.ts';
import { fileNameIn, librariesOfObj, lookAtObj, materialsOfMtl } from './obj.ts';

/** Whether bytes begin a ZIP archive. Source: APPNOTE 6.3.10, 4.3.7. */
export const isZip = (head: Uint8Array): boolean =>
  head[0] === 0x50 && head[1] === 0x4b && head[2] === 0x03 && head[3] === 0x04;

const isOfUse = ({ name }: UnzipFileInfo): boolean => {
  const base = fileNameIn(name);
  return base !== '' && !base.startsWith('.') && !name.includes('__MACOSX/');
};

/** Names in an archive, as it lists them; nothing is unpacked. @returns undefined where it cannot be read */
export function namesInArchive(bytes: Uint8Array): string[] | undefined {
  const names: string[] = [];
  try {
    unzipSync(bytes, {
      filter(file) {
        if (isOfUse(file)) names.push(file.name);
        return false;
      },
    });
  } catch {
    return undefined;
  }
  return names;
}

/** Whether an archive is one model: it holds one OBJ. Of several each is a file of its own. */
export const isObjArchive = (bytes: Uint8Array): boolean =>
  isZip(bytes) && namesInArchive(bytes)?.filter((name) => /\.obj$/i.test(name)).length === 1;

/** An OBJ and what lies beside it. */
export interface ObjArchive {
  readonly obj: Uint8Array;
  /** By name without folders, in small letters. */
  readonly others: ReadonlyMap<string, Uint8Array>;
}

/** Unpacks a model from an archive; paths are names alone, and what says that it is too large is not unpacked. */
export function readObjArchive(bytes: Uint8Array): ObjArchive | ModelTrouble {
  let total = 0;
  let isTooLarge = false;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter(file) {
        if (!isOfUse(file)) return false;
        total += file.originalSize;
        const most = /\.obj$/i.test(file.name) ? MODEL_LIMITS.textBytes : MODEL_LIMITS.archiveBytes;
        isTooLarge ||= file.originalSize > most || total > MODEL_LIMITS.archiveBytes;
        return !isTooLarge;
      },
    });
  } catch {
    return 'damaged';
  }
  if (isTooLarge) return 'too-many-triangles';
  const all = Object.entries(files).map(
    ([path, content]) => [fileNameIn(path).toLowerCase(), content] as const,
  );
  const objects = all.filter(([name]) => name.endsWith('.obj'));
  if (objects.length !== 1) return 'damaged';
  return { obj: objects[0]![1], others: new Map(all.filter(([name]) => !name.endsWith('.obj'))) };
}

export function lookAtObjArchive(bytes: Uint8Array): ModelLook | ModelTrouble {
  const archive = readObjArchive(bytes);
  return typeof archive === 'string' ? archive : lookAtObj(archive.obj);
}

/** Materials of an OBJ by their names, and the names of what it refers to and is not there. */
export function surfaceOfArchive({ obj, others }: ObjArchive) {
  const text = new TextDecoder();
  const missing: string[] = [];
  // Libraries stand at its head; the whole of it may be too long for one text.
  const libraries = librariesOfObj(text.decode(obj.subarray(0, 64 * 1024)));
  const materials = libraries.flatMap((library) => {
    const found = others.get(library.toLowerCase());
    if (!found) missing.push(library);
    return found ? materialsOfMtl(text.decode(found)) : [];
  });
  for (const { picture } of materials)
    if (picture && !others.has(picture.toLowerCase()) && !missing.includes(picture)) missing.push(picture);
  return { materials, missing };
}

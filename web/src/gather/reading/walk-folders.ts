/** A folder of more files than this is looked at, not taken in at once. */
export const MOST_FILES = 5_000;

const entriesOf = (folder: FileSystemDirectoryEntry): Promise<FileSystemEntry[]> =>
  new Promise((resolve, reject) => {
    const reader = folder.createReader();
    const found: FileSystemEntry[] = [];
    // A reader gives a hundred at a time, and none at its end.
    const more = () =>
      reader.readEntries((entries) => {
        found.push(...entries);
        if (entries.length === 0) resolve(found);
        else more();
      }, reject);
    more();
  });

const fileOf = (entry: FileSystemFileEntry): Promise<File> =>
  new Promise((resolve, reject) => entry.file(resolve, reject));

/** Files that no person put there. */
const isHidden = (name: string) => /^(?:\.|__MACOSX$|Thumbs\.db$|desktop\.ini$)/i.test(name);

const byName = new Intl.Collator('en', { numeric: true });

/** All files of what was dropped, folders walked in the order of their names. */
export async function walk(entries: readonly FileSystemEntry[]): Promise<File[]> {
  const files: File[] = [];
  let waiting = [...entries];
  for (let entry = waiting.shift(); entry && files.length < MOST_FILES; entry = waiting.shift()) {
    if (isHidden(entry.name) && !entries.includes(entry)) continue;
    if (entry.isFile) files.push(await fileOf(entry as FileSystemFileEntry));
    else {
      const within = await entriesOf(entry as FileSystemDirectoryEntry);
      waiting = [...within.sort((one, other) => byName.compare(one.name, other.name)), ...waiting];
    }
  }
  return files;
}

import type { Desk } from '../../desk/index.ts';
import { ask } from '../../sync/index.ts';

/** The same bytes are the same picture: said, and no more. @param boards - names of others on which it stands */
export function knownWords(
  names: readonly string[],
  how: 'stand' | 'lie' = 'stand',
  boards: readonly string[] = [],
): string {
  const [first] = names;
  const where = how === 'stand' ? ' here' : '';
  const [board, ...more] = boards;
  const others = more.length > 0 ? ` and ${more.length === 1 ? 'one other' : `${more.length} others`}` : '';
  const on = board ? `, on “${board}”${others}` : '';
  if (names.length === 1)
    return `“${first}” was here already${on}; it ${how}s${where} as the same picture, under its name.`;
  return `${names.length} of them were here already; they ${how}${where} as the same pictures, under their names.`;
}

/** The same for pictures that came onto a board, with where a single one stands besides. */
export async function knownWordsOf(desk: Desk, pictures: readonly string[]): Promise<string> {
  const names = pictures.map((id) => desk.sync.shelf.get(id)?.name ?? 'A picture');
  const story =
    pictures.length === 1
      ? await ask('GET /api/pictures/:id/story', { parameters: { id: pictures[0]! } }).catch(() => undefined)
      : undefined;
  const boards = (story?.boards ?? []).filter(({ id }) => id !== desk.session.id).map(({ name }) => name);
  return knownWords(names, 'stand', boards);
}

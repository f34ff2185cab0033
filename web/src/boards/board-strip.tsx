import type { Board, BoardSnapshot, Picture } from '@miradero/core/schema';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { askServer } from '../sync/index.ts';

const HEIGHT = 92;
const MOST = 9;
const LEVEL = 256;

/** Pictures that stand on a board, largest first: what the eye would know the board by. */
async function picturesOn(board: string): Promise<Picture[]> {
  const [{ items }, { pictures }] = await Promise.all([
    askServer<BoardSnapshot>(`/api/boards/${board}`),
    askServer<{ pictures: Picture[] }>(`/api/pictures?board=${board}`),
  ]);
  const widths = new Map<string, number>();
  for (const item of items) {
    if (item.kind === 'placement' && !item.removed) {
      widths.set(item.picture, Math.max(item.width, widths.get(item.picture) ?? 0));
    }
  }
  return pictures
    .filter((picture) => widths.has(picture.id) && picture.levels.length > 0)
    .sort((a, b) => widths.get(b.id)! - widths.get(a.id)!)
    .slice(0, MOST);
}

/** A strip of the pictures of one board. */
export function BoardStrip({ board }: { board: Board }) {
  const { data: pictures } = useQuery({
    queryKey: ['board-strip', board.id, board.revision],
    queryFn: () => picturesOn(board.id),
    placeholderData: (before) => before,
  });
  return (
    <Link
      to={`/boards/${board.id}`}
      className="col-span-2 mt-3 flex gap-1.5 overflow-hidden"
      style={{ height: HEIGHT }}
      aria-label={`Open ${board.name}`}
    >
      {pictures?.map((picture) => {
        const level = picture.levels.find(({ side }) => side >= LEVEL) ?? picture.levels[0]!;
        return (
          <img
            key={picture.id}
            src={`/api/levels/${level.hash}`}
            alt={picture.name}
            width={Math.round((HEIGHT * picture.width) / picture.height)}
            height={HEIGHT}
            className="h-full w-auto max-w-none shrink-0 object-cover"
          />
        );
      })}
    </Link>
  );
}

import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Desk } from '../../desk/index.ts';
import { LIBRARY } from '../../shell/index.ts';
import { ask } from '../../sync/index.ts';

/** So many are named; of more, how many. */
const MOST = 5;

/** The other boards on which a picture stands. */
export function AlsoOn({ desk, picture }: { desk: Desk; picture: string }) {
  const { data } = useQuery({
    queryKey: [...LIBRARY, 'story', picture],
    queryFn: () => ask('GET /api/pictures/:id/story', { parameters: { id: picture } }),
  });
  const others = data?.boards.filter(({ id }) => id !== desk.session.id) ?? [];
  if (others.length === 0) return null;
  return (
    <div className="flex items-baseline gap-3 border-line border-t py-[5px]">
      <dt className="shrink-0 text-muted">Also on</dt>
      <dd className="min-w-0 flex-1 text-right">
        {others.slice(0, MOST).map(({ id, name }) => (
          <Link
            key={id}
            to={`/boards/${id}`}
            className="block truncate font-serif underline decoration-1 underline-offset-3"
          >
            {name}
          </Link>
        ))}
        {others.length > MOST && <span className="text-muted">and {others.length - MOST} more</span>}
      </dd>
    </div>
  );
}

import { useQuery } from '@tanstack/react-query';
import { ask } from '../sync/index.ts';
import { BOARDS } from './news.ts';

/** Every board of the owner. */
export const useBoards = ({ enabled = true } = {}) =>
  useQuery({
    queryKey: BOARDS,
    queryFn: () => ask('GET /api/boards').then(({ boards }) => boards),
    enabled,
  });

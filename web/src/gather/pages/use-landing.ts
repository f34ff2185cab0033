import { useQuery } from '@tanstack/react-query';
import { LANDING } from '../../shell/index.ts';
import { ask } from '../../sync/index.ts';

const MOST = 500;

/** What came in and stands nowhere, newest first. */
export const useLanding = () =>
  useQuery({
    queryKey: LANDING,
    queryFn: async () => (await ask('GET /api/pictures', { query: { landing: true, limit: MOST } })).pictures,
  });

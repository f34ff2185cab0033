import { useQuery } from '@tanstack/react-query';
import { ask } from '../sync/index.ts';
import { LANDING_COUNT } from './news.ts';

/** How many pictures lie on the landing; undefined while nobody knows. */
export const useLandingCount = (isAsked: boolean): number | undefined =>
  useQuery({
    queryKey: LANDING_COUNT,
    queryFn: async () => (await ask('GET /api/landing')).count,
    enabled: isAsked,
  }).data;

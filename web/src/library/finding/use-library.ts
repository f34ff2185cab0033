import type { LibraryWords } from '@miradero/core/contracts';
import type { LibraryAnswer, Picture } from '@miradero/core/schema';
import { keepPreviousData, useQueries, useQuery } from '@tanstack/react-query';
import { LIBRARY } from '../../shell/index.ts';
import { ask } from '../../sync/index.ts';
import { type Asked, parametersOf } from './library-query.ts';

export const PAGE = 200;
/** As many as can be told something at once. */
const MOST_SELECTED = 5_000;
const LARGEST_PAGE = 500;

const askPage = (asked: Asked, offset: number, limit: number): Promise<LibraryAnswer> => {
  const parameters = parametersOf(asked);
  parameters.set('offset', String(offset));
  parameters.set('limit', String(limit));
  return ask('GET /api/library', { query: parameters });
};

/** What a search found: how many, and those that were asked for so far. */
export interface Found {
  readonly total: number;
  readonly isForgiven: boolean;
  readonly isWaiting: boolean;
  readonly trouble: string | undefined;
  /** The last question was not answered: what is here may be out of date. */
  readonly isOld: boolean;
  at(index: number): Picture | undefined;
}

/** Pages of a search that reach from `first` to `last`, and one to each side. */
export function useLibrary(asked: Asked, first: number, last: number): Found {
  const key = parametersOf(asked).toString();
  const from = Math.max(0, Math.floor(first / PAGE) - 1);
  const to = Math.max(from, Math.floor(last / PAGE) + 1);
  const head = useQuery({
    queryKey: [...LIBRARY, key, 0],
    queryFn: () => askPage(asked, 0, PAGE),
    placeholderData: keepPreviousData,
  });
  const total = head.data?.total ?? 0;
  const pages = Array.from({ length: to - from + 1 }, (_, index) => from + index).filter(
    (page) => page > 0 && page * PAGE < total,
  );
  const others = useQueries({
    queries: pages.map((page) => ({
      queryKey: [...LIBRARY, key, page],
      queryFn: () => askPage(asked, page * PAGE, PAGE),
    })),
  });
  const byPage = new Map(pages.map((page, index) => [page, others[index]?.data?.pictures]));
  byPage.set(0, head.data?.pictures);
  return {
    total,
    isForgiven: head.data?.isForgiven ?? false,
    // What was found for the words before is shown meanwhile, and is no answer to these.
    isWaiting: head.isPending || head.isPlaceholderData,
    trouble: head.error && !head.data ? head.error.message : undefined,
    isOld: head.isError && head.data !== undefined,
    at: (index) => byPage.get(Math.floor(index / PAGE))?.[index % PAGE],
  };
}

/** All that a search finds, as far as so many can be told something at once. */
export async function allOf(asked: Asked): Promise<Picture[]> {
  const pictures: Picture[] = [];
  for (let offset = 0; offset < MOST_SELECTED; offset += LARGEST_PAGE) {
    const answer = await askPage(asked, offset, LARGEST_PAGE);
    pictures.push(...answer.pictures);
    if (offset + LARGEST_PAGE >= answer.total) break;
  }
  return pictures;
}

/** Tags, licences and makers in use. */
export function useLibraryWords(): LibraryWords {
  const { data } = useQuery({
    queryKey: [...LIBRARY, 'words'],
    queryFn: () => ask('GET /api/library/words'),
  });
  return data ?? { tags: [], licences: [], creators: [], parts: [], purposes: [] };
}

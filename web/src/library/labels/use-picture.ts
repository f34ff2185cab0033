import type { PatchPicture, Picture } from '@miradero/core/schema';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { LIBRARY, useSync } from '../../shell/index.ts';
import { ask, patchedBy, patchPicture, pathOfPicture, RefusedError } from '../../sync/index.ts';

const GONE = 'There is no picture at this address: it may be mistyped, or the picture was removed.';

/** One picture as it is known now, and how to say something of it: shown at once, kept, sent. */
export function usePicture(id: string) {
  const sync = useSync();
  const queries = useQueryClient();
  const key = [...LIBRARY, 'picture', id];
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: async () => {
      const path = pathOfPicture(id);
      // What is on its way to the server counts already.
      const { answer, bodies } = await sync.patches.during(path, () =>
        ask('GET /api/pictures/:id', { parameters: { id } }),
      );
      sync.shelf.learn(answer.picture);
      return patchedBy(answer.picture, bodies);
    },
  });
  useEffect(
    () =>
      sync.patches.subscribe((path, settled) => {
        // Said here, in another window, or taken back: what is on its way counts already.
        if (path !== pathOfPicture(id) || settled) return;
        queries.setQueryData<Picture>(
          [...LIBRARY, 'picture', id],
          (known) => known && patchedBy(known, sync.patches.bodiesOf(path)),
        );
      }),
    [sync, queries, id],
  );
  return {
    picture: data,
    trouble: error && !data ? (error instanceof RefusedError ? GONE : error.message) : undefined,
    patch(patch: PatchPicture) {
      if (data) void patchPicture(sync, id, patch, { known: data, isArriving: false });
    },
  };
}

import type { PatchPicture, Picture } from '@miradero/core/schema';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef } from 'react';
import { useLibraryNews, useSync } from '../shell/index.ts';
import { askServer, patched, patchedBy, pathOfPicture, RefusedError } from '../sync/index.ts';
import { LIBRARY } from './use-library.ts';

const GONE = 'There is no picture at this address: it may be mistyped, or the picture was removed.';

/** What a picture was in everything that a patch names. */
const inverseOf = (picture: Picture, patch: PatchPicture): PatchPicture =>
  Object.fromEntries(
    Object.keys(patch).map((key) => {
      if (key === 'source')
        return [
          key,
          Object.fromEntries(Object.keys(patch.source!).map((one) => [one, picture.source[one as 'page']])),
        ];
      return [key, picture[key as keyof Picture]];
    }),
  ) as PatchPicture;

/** One picture as it is known now, and how to say something of it: shown at once, kept, sent, and taken back. */
export function usePicture(id: string) {
  const sync = useSync();
  const queries = useQueryClient();
  const key = [LIBRARY, 'picture', id];
  useLibraryNews(useCallback(() => void queries.invalidateQueries({ queryKey: [LIBRARY] }), [queries]));
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: async () => {
      const path = pathOfPicture(id);
      // What is on its way to the server counts already.
      const { answer, bodies } = await sync.patches.during(path, () => askServer<{ picture: Picture }>(path));
      sync.shelf.learn(answer.picture);
      return patchedBy(answer.picture, bodies);
    },
  });
  const done = useRef<PatchPicture[]>([]);
  const send = (patch: PatchPicture) => {
    queries.setQueryData<Picture>(key, (known) => known && patched(known, patch));
    void sync.outbox.put({ kind: 'patch', path: pathOfPicture(id), body: patch });
  };
  return {
    picture: data,
    trouble: error && !data ? (error instanceof RefusedError ? GONE : error.message) : undefined,
    patch(patch: PatchPicture) {
      if (!data) return;
      done.current.push(inverseOf(data, patch));
      send(patch);
    },
    undo() {
      const last = done.current.pop();
      if (last) send(last);
      return last !== undefined;
    },
  };
}

import { QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { createBrowserRouter, Navigate, useRouteError } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import { hearNews, Message, SyncProvider } from '../shell/index.ts';
import { type ReachTrouble, RefusedError, type Sync, startSync, UnreachableError } from '../sync/index.ts';
import { loadHost, loadPagesAtRest, PAGES } from './pages.ts';

function RouteTrouble() {
  const error = useRouteError();
  return (
    <Message title="This view stopped working">
      {error instanceof Error ? error.message : 'Something went wrong.'} What you made is kept. Reload the
      page to go on.
    </Message>
  );
}

const routesOf = (pages: typeof PAGES) => Object.entries(pages).map(([path, load]) => ({ path, lazy: load }));

const router = createBrowserRouter([
  {
    errorElement: <RouteTrouble />,
    // While the first page is on its way nothing is shown, as before it.
    hydrateFallbackElement: <></>,
    children: [
      { path: '/', element: <Navigate to="/boards" replace /> },
      { lazy: loadHost, children: routesOf(PAGES) },
      { path: '*', element: <Message title="Nothing is here">The address leads nowhere.</Message> },
    ],
  },
]);

const BOARD_PATH = /^\/boards\/([0-9a-f-]{36})$/;
const RETRY_MS = 1_500;
const AGAIN_MS = 4_000;

/** What pages ask for. That the server does not answer them is said where everything of that kind is. */
function queriesFor({ channel }: Sync): QueryClient {
  const tell = (trouble: ReachTrouble | undefined) => channel.post({ kind: 'reach', trouble });
  return new QueryClient({
    queryCache: new QueryCache({
      onError: (error) => error instanceof UnreachableError && tell(error.trouble),
      onSuccess: () => tell(undefined),
    }),
    defaultOptions: {
      // The server is on this computer as a rule: that there is no network says nothing about it.
      mutations: { networkMode: 'always' },
      queries: {
        networkMode: 'always',
        staleTime: 5_000,
        // Without an answer it is asked again by itself, also where no greeting tells that the server is back.
        refetchInterval: ({ state }) => (state.error instanceof UnreachableError ? AGAIN_MS : false),
        // What was refused is refused again.
        retry: (count, error) => !(error instanceof RefusedError) && count < 2,
      },
    },
  });
}

/**
 * Begun before anything is rendered; where a board is asked for, it is opened while its page is still being read.
 * What fails is tried again by the application.
 */
let first: Promise<Sync> | undefined = startSync();
first
  .then(async (sync) => {
    const id = BOARD_PATH.exec(location.pathname)?.[1];
    if (id) (await import('../desk/index.ts')).openAhead(sync, id);
  })
  .catch(() => {});

/** Starts keeping and sending, then shows the rooms. */
export function App() {
  const [sync, setSync] = useState<Sync>();
  const queries = useMemo(() => sync && queriesFor(sync), [sync]);
  const [isWaiting, setWaiting] = useState(false);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    let isHere = true;
    const start = () => {
      const started = first ?? startSync();
      first = undefined;
      started.then(
        (sync) => isHere && setSync(sync),
        () => {
          if (!isHere) return;
          setWaiting(true);
          timer = setTimeout(start, RETRY_MS);
        },
      );
    };
    start();
    return () => {
      isHere = false;
      clearTimeout(timer);
    };
  }, []);
  useEffect(() => sync && loadPagesAtRest(), [sync]);
  useEffect(() => sync && queries && hearNews(queries, sync.channel), [sync, queries]);
  if (!sync || !queries) {
    return isWaiting ? (
      <Message title="The server does not answer">
        It is tried again by itself. What you made is kept on this computer.
      </Message>
    ) : null;
  }
  return (
    <SyncProvider sync={sync}>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </SyncProvider>
  );
}

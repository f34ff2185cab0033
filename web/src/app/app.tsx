import { QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { createBrowserRouter, Navigate, useRouteError } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import { BoardPage, BoardsPage } from '../boards/index.ts';
import { BringPage, ClipPage, LandingPage } from '../gather/index.ts';
import { LibraryPage, PicturePage, SourcesPage } from '../library/index.ts';
import { SettingsPage } from '../owner/index.ts';
import { PerchHost, PerchPage } from '../perch/index.ts';
import { Message, SyncProvider } from '../shell/index.ts';
import { SubjectsPage } from '../subjects/index.ts';
import { type ReachTrouble, RefusedError, type Sync, startSync, UnreachableError } from '../sync/index.ts';

function RouteTrouble() {
  const error = useRouteError();
  return (
    <Message title="This view stopped working">
      {error instanceof Error ? error.message : 'Something went wrong.'} What you made is kept. Reload the
      page to go on.
    </Message>
  );
}

const router = createBrowserRouter([
  {
    errorElement: <RouteTrouble />,
    children: [
      { path: '/', element: <Navigate to="/boards" replace /> },
      { path: '/boards', element: <BoardsPage /> },
      { path: '/boards/:id', element: <BoardPage /> },
      { path: '/landing', element: <LandingPage /> },
      { path: '/library', element: <LibraryPage /> },
      { path: '/library/:id', element: <PicturePage /> },
      { path: '/sources', element: <SourcesPage /> },
      { path: '/subjects', element: <SubjectsPage /> },
      { path: '/subjects/:id', element: <SubjectsPage /> },
      { path: '/bring', element: <BringPage /> },
      { path: '/clip', element: <ClipPage /> },
      { path: '/settings', element: <SettingsPage /> },
      { path: '/perch/:id', element: <PerchPage /> },
      { path: '*', element: <Message title="Nothing is here">The address leads nowhere.</Message> },
    ],
  },
]);

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

/** Starts keeping and sending, then shows the rooms. */
export function App() {
  const [sync, setSync] = useState<Sync>();
  const queries = useMemo(() => sync && queriesFor(sync), [sync]);
  const [isWaiting, setWaiting] = useState(false);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    let isHere = true;
    const start = () => {
      startSync().then(
        (started) => isHere && setSync(started),
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
        <PerchHost />
      </QueryClientProvider>
    </SyncProvider>
  );
}

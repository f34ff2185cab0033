import type { ComponentType } from 'react';

type Load = () => Promise<{ Component: ComponentType }>;

const boards = () => import('../boards/index.ts');
const gather = () => import('../gather/pages.ts');
const sheets = async () => (await import('../gather/index.ts')).loadSheets();
const exportSheet = async () => (await import('../exporting/index.ts')).loadExportSheet();
const library = () => import('../library/index.ts');
const subjects = () => import('../subjects/index.ts');
const perchPage = async () => ({ Component: (await import('../perch/pages.ts')).PerchPage });

/** Every page by its path; each room is a chunk of its own, asked for when one of its pages is. */
export const PAGES: Readonly<Record<string, Load>> = {
  '/boards': async () => ({ Component: (await boards()).BoardsPage }),
  '/boards/:id': async () => ({ Component: (await boards()).BoardPage }),
  '/boards/:id/history': async () => ({ Component: (await boards()).PastPage }),
  '/easel': async () => ({ Component: (await import('../easel/index.ts')).EaselPage }),
  '/landing': async () => ({ Component: (await gather()).LandingPage }),
  '/library': async () => ({ Component: (await library()).LibraryPage }),
  '/library/:id': async () => ({ Component: (await library()).PicturePage }),
  '/sources': async () => ({ Component: (await library()).SourcesPage }),
  '/subjects': async () => ({ Component: (await subjects()).SubjectsPage }),
  '/subjects/:id': async () => ({ Component: (await subjects()).SubjectsPage }),
  '/bring': async () => ({ Component: (await gather()).BringPage }),
  '/clip': async () => ({ Component: (await gather()).ClipPage }),
  '/settings': async () => ({ Component: (await import('../owner/index.ts')).SettingsPage }),
  '/perch': perchPage,
  '/perch/:id': perchPage,
};

/** So long after the start nothing more is to be shown at once. */
const REST_MS = 3_000;

/** What all of them stand in: keys, everything by name, undo, the perch. */
export const loadHost = () => import('./command-host.tsx');

/** Loads the other pages once the first one has come to rest: they are there when the server is not. */
export function loadPagesAtRest(): () => void {
  const timer = setTimeout(() => {
    for (const load of [...Object.values(PAGES), sheets, exportSheet])
      load().catch(() => {
        // Asked for again when the page is.
      });
  }, REST_MS);
  return () => clearTimeout(timer);
}

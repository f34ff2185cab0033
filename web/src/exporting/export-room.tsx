import { lazy, Suspense } from 'react';
import { useStore } from '../state/index.ts';
import { closeSheet, sheetState } from './sheet-state.ts';

const sheet = () => import('./save-sheet.tsx');
const SaveSheet = lazy(async () => ({ default: (await sheet()).SaveSheet }));

/** Has the sheet at hand from now on, also when the server is away. */
export const loadExportSheet = (): Promise<unknown> => sheet();

/** What is asked before something is saved as a picture, above the page of a board. */
export function ExportRoom() {
  const open = useStore(sheetState, (state) => state.open);
  return open ? (
    <Suspense>
      <SaveSheet {...open} onClose={closeSheet} />
    </Suspense>
  ) : null;
}

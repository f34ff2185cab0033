import { later } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { closeSheet, sheetState } from './sheet-state.ts';

const sheet = () => import('./save-sheet.tsx');
const boardFileSheet = () => import('./board-file-sheet.tsx');
const SaveSheet = later(async () => (await sheet()).SaveSheet, { isSheet: true });
const formatsSheet = () => import('./formats-sheet.tsx');
const FormatsSheet = later(async () => (await formatsSheet()).FormatsSheet, { isSheet: true });
const BoardFileSheet = later(async () => (await boardFileSheet()).BoardFileSheet, { isSheet: true });

/** Has the sheets at hand from now on, also when the server is away. */
export const loadExportSheet = (): Promise<unknown> =>
  Promise.all([sheet(), boardFileSheet(), formatsSheet()]);

/** What is asked before something is saved, above the page of a board. */
export function ExportRoom() {
  const open = useStore(sheetState, (state) => state.open);
  if (!open) return null;
  if (open.as === 'board-file') return <BoardFileSheet {...open} onClose={closeSheet} />;
  const Sheet = open.as === 'picture' ? SaveSheet : FormatsSheet;
  return <Sheet {...open} onClose={closeSheet} />;
}

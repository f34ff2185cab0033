import { later } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { closeColourSheet, colourSheets } from './colour-sheets.ts';

const ShelfSheet = later(() => import('./shelf-sheet.tsx').then((sheet) => sheet.ShelfSheet), {
  isSheet: true,
});
const ComparedSheet = later(() => import('./compared-sheet.tsx').then((sheet) => sheet.ComparedSheet), {
  isSheet: true,
});

/** The sheets of palettes, above the page of a board. */
export function ColourRoom() {
  const open = useStore(colourSheets, (state) => state.open);
  if (!open) return null;
  return open.kind === 'shelf' ? (
    <ShelfSheet desk={open.desk} onClose={closeColourSheet} />
  ) : (
    <ComparedSheet palettes={open.palettes} onClose={closeColourSheet} />
  );
}

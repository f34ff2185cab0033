export * from './card-side.ts';
export * from './commands.ts';
export { drawMarks, drawSelection, selectionOnScreen } from './draw-selection.ts';
export { HELD_TOOLS } from './held.ts';
export { comeCloseAt, LOOK, panning } from './look.ts';
export * from './seat-tools.ts';
export { SELECT } from './select.ts';

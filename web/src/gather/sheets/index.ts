export { BoardFileSheet } from './board-file-sheet.tsx';
export { CameraSheet } from './camera-sheet.tsx';
export { GrabSheet } from './grab-sheet.tsx';
export { PickingSheet } from './picking-sheet.tsx';

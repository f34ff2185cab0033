export * from './easel-on-board.tsx';
export * from './easel-page.tsx';
export { takeUpPainted } from './painting/recover.ts';
export * from './pinned-layer.tsx';

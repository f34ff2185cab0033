export * from './easel-on-board.tsx';
export * from './easel-page.tsx';
export * from './pinned-layer.tsx';

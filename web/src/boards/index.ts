export * from './board-page.tsx';
export * from './boards-page.tsx';

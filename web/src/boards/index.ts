export * from './board-page.tsx';
export * from './boards-page.tsx';
export * from './past/past-page.tsx';

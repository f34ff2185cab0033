export * from './easel-page.tsx';

export * from './bay.tsx';

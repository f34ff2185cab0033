export * from './note.tsx';

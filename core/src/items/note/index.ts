export * from './note.ts';

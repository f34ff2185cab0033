export * from './inks.ts';
export * from './note.ts';

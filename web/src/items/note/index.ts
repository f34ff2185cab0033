export { NOTE_LETTERS_OFFERED, NOTE_LISTS_OFFERED, NOTE_ROLES_OFFERED } from './formatting.ts';
export * from './ink-and-paper.tsx';
export * from './note.tsx';
export { formattedOf } from './rich.ts';

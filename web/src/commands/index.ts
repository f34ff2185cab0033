export { actionOf } from './actions.ts';
export * from './command-room.tsx';
export { useKeyWords } from './use-keymap.ts';

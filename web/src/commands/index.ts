export * from './command.ts';
export * from './commands-context.tsx';
export * from './finder.ts';
export * from './key-press.ts';
export * from './keymap.ts';
export * from './place.ts';
export * from './registry.ts';
export { useKeymap, useKeyWords } from './use-keymap.ts';
export { useKeys } from './use-keys.ts';

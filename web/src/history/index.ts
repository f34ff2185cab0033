export * from './commands.ts';
export * from './line.tsx';
export * from './named-states.ts';
export * from './news.ts';
export * from './past-board.ts';
export * from './use-history.ts';
export * from './when.ts';

export * from './board.ts';
export * from './change.ts';
export * from './event.ts';
export * from './gathering.ts';
export * from './item.ts';
export * from './picture.ts';
export * from './settings.ts';

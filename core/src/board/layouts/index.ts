export * from './even-out.ts';
export * from './line-up.ts';
export * from './settle.ts';
export * from './shelf-groups.ts';
export * from './shelves.ts';
export * from './strips.ts';

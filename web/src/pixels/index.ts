export * from './client.ts';
export * from './lasting-worker.ts';
export * from './levels.ts';
export * from './pool.ts';
export * from './requests.ts';
export * from './tile-levels.ts';

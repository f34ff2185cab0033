export * from './board-file-routes.ts';
export * from './colour-routes.ts';
export * from './contract.ts';
export * from './history-routes.ts';
export * from './link-routes.ts';
export * from './picture-routes.ts';
export * from './problems.ts';
export * from './routes.ts';

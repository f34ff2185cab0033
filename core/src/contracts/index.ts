export * from './contract.ts';
export * from './problems.ts';
export * from './routes.ts';

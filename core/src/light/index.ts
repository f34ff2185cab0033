export * from './direction.ts';
export * from './estimate.ts';
export * from './lit-ball.ts';
export * from './parts.ts';
export * from './suggest.ts';

export * from './lit-ball.ts';

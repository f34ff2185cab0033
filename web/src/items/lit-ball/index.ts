export * from './lit-ball.tsx';

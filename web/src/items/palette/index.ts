export * from './palette.tsx';

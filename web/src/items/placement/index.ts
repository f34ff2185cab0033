export * from './placement.tsx';

export * from './cluster.tsx';

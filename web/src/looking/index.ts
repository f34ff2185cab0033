export * from './finding.tsx';
export { Overview } from './overview.tsx';
export * from './places-list.tsx';
export * from './smallest-list.tsx';

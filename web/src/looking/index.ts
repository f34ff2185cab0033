export * from './finding.tsx';
export * from './lens-amount.tsx';
export { inOrder, LENS_KEYS, lensCommand } from './lenses.ts';
export { Overview } from './overview.tsx';
export * from './places-list.tsx';
export * from './smallest-list.tsx';
export * from './working-sets.ts';

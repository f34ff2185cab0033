export * from './coverage.ts';
export * from './light-from-form.ts';
export * from './part-order.ts';
export * from './proposals.ts';
export * from './ranking.ts';
export * from './view-cells.ts';

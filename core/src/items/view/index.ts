export * from './view.ts';

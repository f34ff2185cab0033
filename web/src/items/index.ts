export * from './item-label.tsx';
export * from './kind-of.ts';
export { startTitling } from './titling.tsx';

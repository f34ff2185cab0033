export * from './item-label.tsx';
export * from './kind-of.ts';
export { makeLinkCard } from './link/index.ts';
export { LabelsOnPictures } from './placement/index.ts';
export { startTitling } from './titling.tsx';

export * from './actions.ts';
export * from './alter.ts';
export * from './desk.ts';
export * from './desk-state.ts';
export * from './kept-camera.ts';
export { sourcesOf } from './sources.ts';
export * from './use-desk.ts';
export * from './zoom-figure.tsx';

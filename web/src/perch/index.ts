export { perch, type Say } from './open-perch.ts';
export * from './perch-button.tsx';
export * from './perch-host.tsx';
export { openHolder } from './perch-window.ts';

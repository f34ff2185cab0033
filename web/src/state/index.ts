export { useStore } from 'zustand';
export { createStore, type StoreApi } from 'zustand/vanilla';
export * from './readable.ts';
export * from './remembered.ts';
export * from './use-made.ts';

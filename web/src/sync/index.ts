export * from './board-session.ts';
export type { Errand, RefusedChange, WaitingFile } from './browser-database.ts';
export { DURABLE } from './browser-database.ts';
export * from './http.ts';
export type { ShelvedPicture } from './picture-shelf.ts';
export { PictureShelf } from './picture-shelf.ts';
export type { SavedReport } from './saved-state.ts';
export { OwnSettings } from './settings.ts';
export { type Sync, startSync } from './sync.ts';

export * from './changes.ts';
export * from './playing.ts';
export * from './timecode.ts';

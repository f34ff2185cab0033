export * from './fill.ts';
export * from './panes.ts';
export * from './part.ts';
export * from './slideshow.ts';
export * from './windows.ts';

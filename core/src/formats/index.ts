export * from './model.ts';
export * from './motion.ts';
export * from './motion-of-bytes.ts';
export * from './palettes/index.ts';
export * from './source-sheet.ts';
export * from './xmp.ts';

export * from './model.ts';
export * from './motion.ts';
export * from './motion-of-bytes.ts';

export * from './break-lines.ts';
export * from './direction.ts';
export * from './face.ts';
export * from './first-lines.ts';
export * from './lay-out.ts';
export * from './lay-out-blocks.ts';
export * from './placed.ts';

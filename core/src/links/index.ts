export * from './choices.ts';

export * from './sheet.ts';

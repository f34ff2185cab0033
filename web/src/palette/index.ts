export * from './keys-sheet.tsx';
export * from './palette.tsx';

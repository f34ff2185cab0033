export * from './editable-name.tsx';
export * from './lintel.tsx';
export * from './message.tsx';
export * from './sync-context.tsx';
export * from './theme.ts';

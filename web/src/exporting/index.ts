export * from './drag-out.tsx';
export * from './export-line.tsx';
export * from './export-room.tsx';

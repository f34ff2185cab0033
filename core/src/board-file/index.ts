export * from './looker-page.ts';
export * from './marks-as-svg.ts';
export * from './viewer-board.ts';
export * from './viewer-page.ts';

export * from './perch-button.tsx';
export * from './perch-page.tsx';

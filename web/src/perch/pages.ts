export { PerchPage } from './perch-page.tsx';

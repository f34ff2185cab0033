export { LinksSheet } from './links-sheet.tsx';

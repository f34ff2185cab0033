export { LibraryPage } from './library-page.tsx';
export { PicturePage } from './picture-page.tsx';
export { SourcesPage } from './sources-page.tsx';

export { LibraryPage } from './pages/library-page.tsx';
export { PicturePage } from './pages/picture-page.tsx';
export { SourcesPage } from './pages/sources-page.tsx';

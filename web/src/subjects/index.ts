export { SubjectsPage } from './subjects-page.tsx';
export { usePutSubject } from './use-coverage.ts';
export { ViewDials } from './view-dials.tsx';

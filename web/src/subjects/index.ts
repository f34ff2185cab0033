export { SubjectsPage } from './subjects-page.tsx';
export { ViewDials } from './view-dials.tsx';

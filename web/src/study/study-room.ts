export { compareValues } from './comparing.ts';
export { studyForm } from './forming.ts';
export { outlineOf } from './outlining.ts';
export { studyValuesOf } from './studying.ts';

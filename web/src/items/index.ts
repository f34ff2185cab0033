export * from './item-label.tsx';
export * from './kind-of.ts';
export { makeLinkCard } from './link/index.ts';
export {
  formattedOf,
  InkAndPaper,
  NOTE_LETTERS_OFFERED,
  NOTE_LISTS_OFFERED,
  NOTE_ROLES_OFFERED,
} from './note/index.ts';
export { LabelsOnPictures } from './placement/index.ts';
export { startTitling } from './titling.tsx';

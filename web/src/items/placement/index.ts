export { LabelsOnPictures } from './labels-on-pictures.tsx';
export * from './placement.tsx';

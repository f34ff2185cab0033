export type { PictureOfModel, ReadModel } from './messages.ts';
export { Model, openModel } from './model-link.ts';

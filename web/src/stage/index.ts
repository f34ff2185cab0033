export * from './gestures.ts';
export type { DecodedPicture, SceneSource } from './messages.ts';
export { AS_IT_IS, type Orientation, wrapDegrees } from './orientation.ts';
export { preparePainter } from './painter-link.ts';
export { sceneItemOf } from './scene.ts';
export * from './scene-feed.ts';
export * from './stage-view.ts';
export type { Look, ViewStart } from './view-start.ts';

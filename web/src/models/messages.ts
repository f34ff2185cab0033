import type { ModelType, ModelView, Spot, Stance } from '@miradero/core/model';

/** A model, as the worker that draws it is told of it. */
export interface ModelSource {
  /** Where its file is, or its bytes. */
  readonly address?: string;
  readonly bytes?: Blob;
  readonly type: ModelType;
}

/** What is known of a model once it was read. */
export interface ReadModel {
  /** Its outermost points, as its file has them. */
  readonly points: readonly Spot[];
  readonly triangles: number;
  /** Fewer than it has where it was made coarser. */
  readonly shown: number;
  /** Files with parts of its surface that did not come with it. */
  readonly missing: readonly string[];
  /** It has colours or pictures of its own. */
  readonly hasSurface: boolean;
}

export interface PictureOfModel {
  readonly view: ModelView;
  readonly stance: Stance;
  /** Pixels. */
  readonly width: number;
  readonly height: number;
  /** A hand turns it: sooner is better than finer. */
  readonly isHeld?: boolean;
}

export type ToModels =
  | { readonly kind: 'open'; readonly id: string; readonly source: ModelSource; readonly ask: number }
  | { readonly kind: 'draw'; readonly id: string; readonly picture: PictureOfModel; readonly ask: number }
  | {
      readonly kind: 'picture';
      readonly id: string;
      readonly picture: PictureOfModel;
      readonly type: 'image/png' | 'image/webp';
      readonly ask: number;
    }
  | { readonly kind: 'close'; readonly id: string };

export type FromModels =
  | { readonly kind: 'read'; readonly ask: number; readonly model: ReadModel }
  | { readonly kind: 'drawn'; readonly ask: number; readonly bitmap: ImageBitmap }
  | { readonly kind: 'picture'; readonly ask: number; readonly file: Blob }
  | { readonly kind: 'unanswered'; readonly ask: number; readonly why: string };

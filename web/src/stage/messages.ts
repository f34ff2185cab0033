import type { Rectangle } from '@miradero/core/geometry';
import type { PictureMark } from '@miradero/core/items';
import type { LaidLens } from '@miradero/core/lens';
import type { AtlasPlace, Item } from '@miradero/core/schema';
import type { PixelSource } from '../pixels/index.ts';

/** One thing that stands on the board, as the painting worker keeps it. */
export interface SceneItem {
  readonly item: Item;
  /** Upright bounds, board units. */
  readonly bounds: Rectangle;
  /** What hands drew on it, lowest first, where it is a picture. */
  readonly marks?: readonly PictureMark[];
}

/** What the worker knows of a picture: where its pixels are found, and what is shown while there are none. */
export interface SceneSource extends PixelSource {
  readonly name: string;
  readonly atlas: AtlasPlace | null;
  /** base64 */
  readonly thumbhash: string | null;
  /** Why there are no pixels to wait for. */
  readonly failure: string | null;
}

/** A frame, and the part of it that the view is, its pixels. */
export interface PaintedBefore {
  readonly bitmap: ImageBitmap;
  readonly part: Rectangle;
}

/** A request for one painted frame. */
export interface PaintRequest {
  readonly id: number;
  /** Of the scenes that the worker keeps. */
  readonly scene: number;
  /** Part of the board to paint, board units. */
  readonly view: Rectangle;
  /** Device pixels per board unit. */
  readonly scale: number;
  /** CSS colour of the ground; null paints on nothing. */
  readonly ground: string | null;
  /** Through what it is seen; lengths are device pixels. */
  readonly lenses?: readonly LaidLens[];
  /** Paint only these, or all but these. */
  readonly only?: readonly string[];
  readonly except?: readonly string[];
  /** Of these pictures what is drawn on them, beside what `only` names. */
  readonly marksOf?: readonly string[];
  /** Paint these in place of what stands on the board; or what was painted of it before at this scale. */
  readonly instead?: readonly SceneItem[] | PaintedBefore;
  /** Levels seen missing while painting are loaded, in this order of urgency; an overview loads nothing. */
  readonly isLoading: boolean;
}

/** A request as a view makes it: which scene it is about, and under which number it is answered, is added on its way. */
export type PaintTask = Omit<PaintRequest, 'id' | 'scene'>;

/** A whole picture decoded in one of the sizes in which its pixels can be had: `side`; and `seenAt`, the one in which it is seen. */
export interface DecodedPicture {
  readonly side: number;
  readonly seenAt: number;
  readonly bitmap: ImageBitmap;
}

/** What alters of a scene. */
export interface SceneNews {
  readonly set: readonly Item[];
  readonly removed: readonly string[];
}

export type ToWorker =
  | ({ readonly kind: 'items'; readonly scene: number } & SceneNews)
  | { readonly kind: 'forget'; readonly scene: number }
  | { readonly kind: 'sources'; readonly sources: readonly SceneSource[] }
  | { readonly kind: 'paint'; readonly request: PaintRequest }
  | { readonly kind: 'budget'; readonly bytes: number }
  | ({ readonly kind: 'decoded'; readonly picture: string } & DecodedPicture)
  /** A channel to what gives pixels; none while it is started anew. */
  | { readonly kind: 'pixels'; readonly port: MessagePort | undefined };

export interface PaintedFrame {
  readonly id: number;
  readonly bitmap: ImageBitmap;
  /** False while a picture in it is shown by less than it should be. */
  readonly isSharp: boolean;
  /** False while a picture in it has no pixels at all yet, not even its small copy. */
  readonly isComplete: boolean;
  /** Not complete, and what it lacks is on its way: news of it will come. */
  readonly isAwaiting: boolean;
}

export interface WorkerReport {
  /** Own count of decoded pixels held, bytes. */
  readonly bytes: number;
  readonly bitmaps: number;
  readonly loading: number;
}

export type FromWorker =
  | { readonly kind: 'painted'; readonly frame: PaintedFrame }
  /** Pixels arrived or fonts loaded: frames painted before are out of date. */
  | { readonly kind: 'stale'; readonly report: WorkerReport };

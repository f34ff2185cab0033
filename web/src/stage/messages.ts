import type { Rectangle } from '@miradero/core/geometry';
import type { AtlasPlace, Item } from '@miradero/core/schema';

/** One thing that stands on the board, as the painting worker keeps it. */
export interface SceneItem {
  readonly item: Item;
  /** Upright bounds, board units. */
  readonly bounds: Rectangle;
}

/** Where the worker finds the pixels of a picture. */
export interface SceneSource {
  readonly id: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly levels: readonly { readonly side: number; readonly hash: string }[];
  readonly atlas: AtlasPlace | null;
  /** base64 */
  readonly thumbhash: string | null;
  /** Bytes that the server does not have or has not made levels of yet. */
  readonly file: Blob | null;
  /** Where the picture can be fetched at full size in a kind that browsers read; null for nowhere. */
  readonly wholePath: string | null;
  /** Tiles at full size can be fetched. */
  readonly hasTiles: boolean;
  /** Why there are no pixels to wait for. */
  readonly failure: string | null;
}

/** A request for one painted frame. */
export interface PaintRequest {
  readonly id: number;
  /** Part of the board to paint, board units. */
  readonly view: Rectangle;
  /** Device pixels per board unit. */
  readonly scale: number;
  /** CSS colour of the ground; null paints on nothing. */
  readonly ground: string | null;
  /** Paint only these, or all but these. */
  readonly only?: readonly string[];
  readonly except?: readonly string[];
  /** Paint these in place of what stands on the board. */
  readonly instead?: readonly SceneItem[];
  /** Levels seen missing while painting are loaded, in this order of urgency; an overview loads nothing. */
  readonly isLoading: boolean;
}

export type ToWorker =
  | { readonly kind: 'items'; readonly set: readonly SceneItem[]; readonly removed: readonly string[] }
  | { readonly kind: 'sources'; readonly sources: readonly SceneSource[] }
  | { readonly kind: 'paint'; readonly request: PaintRequest }
  | { readonly kind: 'budget'; readonly bytes: number }
  | { readonly kind: 'read'; readonly request: ReadRequest };

/** A question about the pixels of a picture; answered from a small level, so it is a preview and no measurement. */
export type ReadRequest = {
  readonly id: number;
  readonly picture: string;
} & (
  | { readonly what: 'distribution'; readonly trim: Rectangle; readonly bins: number }
  /** Fractions 0..1 of the upright picture. */
  | { readonly what: 'colour'; readonly x: number; readonly y: number }
);

/** What was read: shares by value, or r, g, b (0..255); null while there are no pixels. */
export type ReadAnswer = Float32Array | readonly [number, number, number] | null;

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
  | { readonly kind: 'read'; readonly id: number; readonly answer: ReadAnswer }
  /** Pixels arrived or fonts loaded: frames painted before are out of date. */
  | { readonly kind: 'stale'; readonly report: WorkerReport };

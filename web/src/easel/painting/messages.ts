import type { Affine, Point, Rectangle } from '@miradero/core/geometry';
import type { Brush, KeptSheet, LayerFacts, LayerKind, PenPoint, Rgb8 } from '@miradero/core/paint';

/** What a study is made of: a picture, and which part of it, in parts of its sides. */
export interface StudiedPart {
  readonly picture: string;
  readonly part: Rectangle;
}

/** A sheet on which nothing is painted yet. */
export interface FreshSheet {
  /** Pixels. */
  readonly width: number;
  readonly height: number;
  readonly ppi: number;
  readonly ground: Rgb8 | null;
  readonly reference: StudiedPart | null;
}

/** With what a stroke is made. */
export interface StrokeWish {
  readonly layer: string;
  readonly does: 'paint' | 'erase' | 'smudge' | 'push';
  readonly brush: Brush;
  readonly colour: Rgb8;
  /** 0..1 */
  readonly smoothing: number;
}

export interface AreaWish {
  readonly layer: string;
  /** null takes away. */
  readonly colour: Rgb8 | null;
  readonly opacity: number;
}

/** Something that is done to the layers. */
export type LayerAct =
  /** @property goesOn - belongs to what was done last: one pull at a slider is one step */
  | {
      readonly act: 'alter';
      readonly id: string;
      readonly facts: Partial<Omit<LayerFacts, 'id'>>;
      readonly goesOn?: boolean;
    }
  | { readonly act: 'add'; readonly id: string; readonly layer: LayerKind; readonly above: string }
  | { readonly act: 'remove'; readonly id: string }
  | { readonly act: 'move'; readonly id: string; readonly to: number }
  | { readonly act: 'merge'; readonly id: string };

/** Which part of a sheet is wanted, how fine: tiles of it, made smaller by 2^level. */
export interface SeenWindow {
  readonly level: number;
  readonly column: number;
  readonly row: number;
  readonly columns: number;
  readonly rows: number;
}

/** Pixels of a sheet made smaller by 2^level, and where they lie in that. */
export interface SeenPart {
  readonly level: number;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** RGBA, straight alpha, row-major. */
  readonly data: Uint8ClampedArray<ArrayBuffer>;
}

export type SheetFormat = 'png' | 'openraster';

export type ToPaint =
  /** @property keeper - to the worker that keeps it on this computer */
  | {
      readonly kind: 'open';
      readonly drawing: string;
      readonly keeper: MessagePort;
      readonly version: string | null;
      readonly fresh: FreshSheet | null;
    }
  /** Its newest version, where there is one: wanted where nothing is kept, or something older. */
  | { readonly kind: 'file'; readonly file: Blob | null }
  /** @property isInstead - of the stroke that was made last, if that is still the last that was done */
  | { readonly kind: 'begin'; readonly wish: StrokeWish; readonly isInstead?: boolean }
  /** @property number - of the last of the points, counted from the beginning of the stroke */
  | { readonly kind: 'way'; readonly points: readonly PenPoint[]; readonly number: number }
  | { readonly kind: 'end' | 'cancel' | 'undo' | 'redo' }
  /** It is put on the disk at once. */
  | { readonly kind: 'keep'; readonly ask: number }
  | { readonly kind: 'lasso'; readonly wish: AreaWish; readonly corners: readonly Point[] }
  | { readonly kind: 'fill'; readonly wish: AreaWish; readonly at: Point; readonly gapPx: number }
  /** @property number - by which it is answered */
  | {
      readonly kind: 'take';
      readonly layer: string;
      readonly corners: readonly Point[];
      readonly number: number;
    }
  | { readonly kind: 'carry'; readonly to: Affine }
  /** What was taken stays where it is, or is taken away. */
  | { readonly kind: 'settle' | 'discard' }
  /** All layers are made smaller about the middle. @property by - 0..1 */
  | { readonly kind: 'shrink'; readonly by: number }
  /** What of the ground is bare is shown, or no more. */
  | { readonly kind: 'show-bare'; readonly isShown: boolean }
  /** The ground is painted under, as one step. @property colour - of it; @property picture - RGBA, stretched over all of it */
  | { readonly kind: 'ground'; readonly colour: Rgb8 | null; readonly picture: ImageBitmap | null }
  | { readonly kind: 'layers'; readonly what: LayerAct }
  | { readonly kind: 'look'; readonly window: SeenWindow | null }
  /** @property waits - until nothing is carried; else that is put down */
  | { readonly kind: 'export'; readonly ask: number; readonly as: SheetFormat; readonly waits: boolean }
  /** A version was made of how it was at a change. */
  | { readonly kind: 'versioned'; readonly version: string; readonly change: number };

/** What is said of a sheet while it is painted. */
export interface PaintFacts {
  readonly width: number;
  readonly height: number;
  readonly ppi: number;
  readonly layers: readonly LayerFacts[];
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  /** Grows with everything that is done. */
  readonly change: number;
  /** Whether there is something of which no version was made. */
  readonly isAltered: boolean;
  /** Share of it that is bare ground, 0..1. */
  readonly bare: number | null;
  readonly reference: StudiedPart | null;
  /** Where something was taken that can be carried elsewhere, pixels of the sheet. */
  readonly taken: Rectangle | null;
  /** Number of the last taking that was answered; 0: none. */
  readonly takes: number;
}

export type FromPaint =
  /** @property coarse - the level at which all of it is told always */
  | { readonly kind: 'opened'; readonly facts: PaintFacts; readonly coarse: number }
  | { readonly kind: 'unopened'; readonly why: string }
  | { readonly kind: 'facts'; readonly facts: PaintFacts }
  /** @property number - of the last point of the stroke that is seen in them; null: none is being made */
  | { readonly kind: 'parts'; readonly parts: readonly SeenPart[]; readonly number: number | null }
  | { readonly kind: 'exported'; readonly ask: number; readonly file: Blob; readonly change: number }
  | { readonly kind: 'unexported'; readonly ask: number; readonly why: string }
  | { readonly kind: 'kept'; readonly ask: number }
  | { readonly kind: 'refused'; readonly why: string }
  /** Whether what was painted is on this computer's disk. */
  | { readonly kind: 'keeping'; readonly trouble: 'full' | 'failed' | null; readonly isKept: boolean };

/** Pixels of a tile under the number by which it is kept. */
export interface NumberedTile {
  readonly tile: number;
  readonly pixels: Uint8ClampedArray<ArrayBuffer>;
}

export type ToKeeper =
  | { readonly kind: 'open'; readonly drawing: string }
  /** The hand is painting, or moves the view: what is not wanted at once waits. */
  | { readonly kind: 'painting' }
  /** A file of what was saved last. */
  | { readonly kind: 'export'; readonly ask: number; readonly as: SheetFormat }
  /** Some of the tiles that the next state names and are not on the disk; the memory of their pixels comes back. */
  | { readonly kind: 'pack'; readonly tiles: readonly NumberedTile[] }
  | { readonly kind: 'save'; readonly state: KeptSheet };

export type FromKeeper =
  /** Its tiles come next. */
  | { readonly kind: 'found'; readonly state: KeptSheet }
  /** Those of its layers in one row of tiles, from above; they may have come with another. */
  | { readonly kind: 'row'; readonly row: number; readonly tiles: readonly NumberedTile[] }
  /** After the last row. @property tiles - that only what can be taken back has; null: they cannot be read */
  | { readonly kind: 'past'; readonly tiles: readonly NumberedTile[] | null }
  /** A row cannot be read. */
  | { readonly kind: 'broken' }
  /** Nothing is kept, or nothing that can be read. */
  | { readonly kind: 'none' }
  /** The private files of this browser cannot be had. */
  | { readonly kind: 'unopened' }
  | { readonly kind: 'packed'; readonly memory: readonly ArrayBuffer[] }
  | { readonly kind: 'saved'; readonly trouble: 'full' | 'failed' | null }
  | { readonly kind: 'exported'; readonly ask: number; readonly file: Blob; readonly change: number }
  | { readonly kind: 'unexported'; readonly ask: number; readonly why: string };

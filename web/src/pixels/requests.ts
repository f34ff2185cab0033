import type { AreaColour, ColourHistogram, PixelSpace, ValueStatistics } from '@miradero/core/colour';
import type { SmallPicture, StandingApart, Subtleties } from '@miradero/core/form';
import type { Point, Rectangle } from '@miradero/core/geometry';
import type { StudyWish, ValueStudy } from '@miradero/core/lens';
import type { LightSuggestion } from '@miradero/core/light';

/** Where the pixels of a picture are found. */
export interface PixelSource {
  readonly id: string;
  /** Pixels of the upright picture. */
  readonly width: number;
  readonly height: number;
  readonly levels: readonly { readonly side: number; readonly hash: string }[];
  /** Bytes that the server does not have or has not made levels of yet. */
  readonly file: Blob | null;
  /** Where the picture can be fetched at full size in a kind that browsers read; null for nowhere. */
  readonly wholePath: string | null;
  /** Tiles at full size can be fetched. */
  readonly hasTiles: boolean;
  /** Lossless pixels that the server hands out a part at a time; null: nobody asked for them, or they are in work. */
  readonly exact: 'ready' | 'failed' | null;
  /** What of its colours a browser reads at full size: `own`: not all of them (deeper, or wider than Display P3). */
  readonly space: PixelSpace | 'own';
}

/** Side that stands for the original at its own size. */
export const ORIGINAL = Number.POSITIVE_INFINITY;

/** Pixels of a part of a picture: RGBA, straight alpha, sRGB, row-major. */
export interface PixelBlock {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray<ArrayBuffer>;
  /** Longest side that the whole picture has at this size, pixels: less than the original's means a shrunken copy. */
  readonly side: number;
}

/** The colour of a point, of a square about it, or of what a line encloses, and the pixels around. */
export interface AreaRead extends AreaColour, PixelBlock {
  /** It comes from the file's own pixels, none shrunken, packed or cut off. */
  readonly isExact: boolean;
  /** Where the pixels that came along begin in the whole picture, pixels of `side`. */
  readonly x: number;
  readonly y: number;
  /** What was read of them, in pixels of theirs. */
  readonly area: Rectangle;
}

/** Colours that were counted, and in which size. */
export interface HistogramRead extends ColourHistogram {
  readonly side: number;
}

/** How a part is put into few values; what is small is said as a share, so that it is the same in every size. */
export interface StudyAsked extends Omit<StudyWish, 'leastIsland'> {
  /** Islands that cover less join what they lie in, 0..1. */
  readonly island: number;
  /** How far edges may move to be simpler, as a share of the longest side; undefined: no shapes are wanted. */
  readonly edges: number | undefined;
}
/** A picture in few values. */
export interface StudyRead extends PixelBlock, Pick<ValueStudy, 'borders' | 'shares' | 'greys'> {
  readonly svg: string | undefined;
  /** Shares over 0..10, darkest first. */
  readonly distribution: Float32Array<ArrayBuffer>;
  readonly statistics: ValueStatistics | undefined;
  /** Where the strongest contrast sits, fractions of what was studied. */
  readonly strongest: { readonly x: number; readonly y: number; readonly spread: number };
}

/** How an outline is drawn; lengths as shares of the longest side, so that it is the same in every size. */
export interface StrokesAsked {
  readonly detail: number;
  readonly tolerance: number;
  readonly most: number;
}
export interface StrokesRead {
  readonly svg: string;
  readonly count: number;
  readonly width: number;
  readonly height: number;
  readonly side: number;
}

/** What a form is by its ground. */
export interface FormRead {
  /** At 96, 48 and 24 pixels. */
  readonly small: readonly SmallPicture[];
  readonly apart: StandingApart | undefined;
  readonly subtle: Subtleties | undefined;
  /** What was looked at: the form and what lies around it, fractions of the picture. */
  readonly part: Rectangle;
  /** Corners of the form, fractions of that part. */
  readonly outline: readonly Point[];
  readonly side: number;
}

/** What light makes of a form, and in which size that was read. */
export interface LightRead {
  readonly suggestion: LightSuggestion | undefined;
  readonly side: number;
}

/** What of a picture is read: fractions 0..1 of its sides, or a square of `sizePx` pixels about a point. */
export type ReadPart =
  | { readonly at: Point; readonly sizePx: number }
  | { readonly outline: readonly Point[] };

interface Asked<Request, Answer> {
  readonly request: Request;
  readonly answer: Answer;
}

/** `side` is the longest side wanted of the whole picture, pixels; what comes is the next larger there is, else the largest. */
export interface PixelRequests {
  /** A whole picture, to be drawn. */
  readonly level: Asked<{ readonly source: PixelSource; readonly side: number }, ImageBitmap>;
  /** Something that the server keeps and browsers read: an atlas, a tile. */
  readonly copy: Asked<{ readonly path: string }, ImageBitmap>;
  /** A part of a picture (fractions 0..1), to be computed with. */
  readonly region: Asked<
    { readonly source: PixelSource; readonly part: Rectangle; readonly side: number },
    PixelBlock
  >;
  /** How the Munsell values of a part are distributed: shares, darkest first. */
  readonly distribution: Asked<
    { readonly source: PixelSource; readonly part: Rectangle; readonly side: number; readonly bins: number },
    Float32Array<ArrayBuffer>
  >;
  /** The colour at a point (fractions 0..1), sRGB 0..255. */
  readonly colour: Asked<
    { readonly source: PixelSource; readonly at: Point; readonly side: number },
    readonly [number, number, number]
  >;
  /** The colour of an area. */
  readonly area: Asked<
    { readonly source: PixelSource; readonly read: ReadPart; readonly side: number },
    AreaRead
  >;
  /** The colours of a part, all pixels counted; clipped by a line where one is given (fractions 0..1). */
  readonly histogram: Asked<
    {
      readonly source: PixelSource;
      readonly part: Rectangle;
      readonly outline: readonly Point[] | undefined;
      readonly side: number;
    },
    HistogramRead
  >;
  /** A part in few values. */
  readonly study: Asked<
    {
      readonly source: PixelSource;
      readonly part: Rectangle;
      readonly side: number;
      readonly wish: StudyAsked;
      /** Of the part, where not all of it is meant; fractions of the picture. */
      readonly outline: readonly Point[] | undefined;
    },
    StudyRead
  >;
  /** The outline of a part in strokes. */
  readonly strokes: Asked<
    {
      readonly source: PixelSource;
      readonly part: Rectangle;
      readonly side: number;
      readonly wish: StrokesAsked;
    },
    StrokesRead
  >;
  /** A form that was drawn around (fractions 0..1). */
  readonly form: Asked<
    { readonly source: PixelSource; readonly outline: readonly Point[]; readonly side: number },
    FormRead
  >;
  /** What light makes of a form that was drawn around (fractions 0..1); undefined where there is too little of it. */
  readonly light: Asked<
    { readonly source: PixelSource; readonly outline: readonly Point[]; readonly side: number },
    LightRead
  >;
  /** How complicated what lies at a path of the server is to read and to draw, 0..1. */
  readonly complexity: Asked<{ readonly path: string }, readonly [number]>;
}
export type PixelRequestKind = keyof PixelRequests;
export type RequestOf<K extends PixelRequestKind> = PixelRequests[K]['request'];
export type AnswerOf<K extends PixelRequestKind> = PixelRequests[K]['answer'];

/**
 * Why there are no pixels: `absent` for a copy that is not made yet or a picture that cannot be shown, `unreachable` for a
 * server that is away, `undecodable` for bytes that this browser cannot read, `too-large` for more than is handed out at
 * once, `lost` for a worker that ended before it answered.
 */
export type PixelTrouble = 'absent' | 'unreachable' | 'undecodable' | 'too-large' | 'lost';

export class PixelError extends Error {
  readonly trouble: PixelTrouble;

  constructor(trouble: PixelTrouble, message: string = trouble) {
    super(message);
    this.trouble = trouble;
  }
}

/** How much of what has to be fetched is here; `total` is undefined where nobody said it. Bytes. */
export interface PixelProgress {
  readonly done: number;
  readonly total: number | undefined;
}

export type ToPixels =
  | {
      [K in PixelRequestKind]: {
        readonly kind: 'ask';
        readonly id: number;
        readonly what: K;
        readonly request: RequestOf<K>;
        /** Whether anybody hears of progress. */
        readonly isWatched: boolean;
      };
    }[PixelRequestKind]
  | { readonly kind: 'cancel'; readonly id: number };

export type FromPixels =
  | { readonly kind: 'answer'; readonly id: number; readonly answer: AnswerOf<PixelRequestKind> }
  | { readonly kind: 'failed'; readonly id: number; readonly trouble: PixelTrouble; readonly message: string }
  | { readonly kind: 'progress'; readonly id: number; readonly progress: PixelProgress };

/** What a pixel worker hears from the window that started it: an end of a channel through which it is asked. */
export interface Connect {
  readonly kind: 'connect';
  readonly port: MessagePort;
}

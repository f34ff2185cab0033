/** What the page lends to those who measure it: `web/src/stage/stage-view.ts`. */
interface MeasuredStage {
  readonly camera: { readonly centre: { readonly x: number; readonly y: number }; readonly scale: number };
  readonly viewport: { readonly width: number; readonly height: number };
  readonly canvas: HTMLCanvasElement;
  /** What was brought close. */
  readonly closeOn: string | undefined;
  readonly lensesNow: readonly { readonly lens: string }[];
  requestDraw(): void;
  readonly bytes: number;
  readonly feed: {
    readonly size: number;
    readonly board: {
      readonly items: ReadonlyMap<string, object>;
      readonly previewed: readonly string[];
      shown(id: string): object | undefined;
    };
    readonly extent:
      | { readonly x: number; readonly y: number; readonly width: number; readonly height: number }
      | undefined;
    isSeen(id: string): boolean;
    source(picture: string): MeasuredSource | undefined;
    readonly painter: {
      readonly report: { readonly bytes: number; readonly bitmaps: number; readonly loading: number };
    };
  };
  readonly status: { readonly isCurrent: boolean; readonly isSharp: boolean; readonly isComplete: boolean };
  onFrame: ((report: { readonly unpaintedShare: number; readonly bufferAgeMs: number }) => void) | undefined;
  onPage(pointPx: { x: number; y: number }): { x: number; y: number };
  setCamera(camera: { centre: { x: number; y: number }; scale: number }): void;
}

/** Where the pixels of a picture are found: `web/src/pixels/requests.ts`. */
interface MeasuredSource {
  readonly id: string;
  readonly levels: readonly { readonly side: number; readonly hash: string }[];
  readonly wholePath: string | null;
}

interface MeasuredPixels {
  ask(what: 'colour', request: object, options?: object): Promise<readonly [number, number, number]>;
  ask(
    what: 'region',
    request: object,
    options?: {
      readonly signal?: AbortSignal;
      readonly onProgress?: (progress: { readonly done: number; readonly total: number | undefined }) => void;
    },
  ): Promise<{
    readonly width: number;
    readonly height: number;
    readonly side: number;
    readonly data: Uint8ClampedArray;
  }>;
}

interface Window {
  miraderoStage?: MeasuredStage;
  /** The stages of a perch, by pane. */
  miraderoPanes?: ReadonlyMap<string, MeasuredStage>;
  miraderoPixels?: MeasuredPixels;
}

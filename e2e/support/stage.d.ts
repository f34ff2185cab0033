/** What the page lends to those who measure it: `web/src/stage/stage-view.ts`. */
interface MeasuredStage {
  readonly camera: { readonly centre: { readonly x: number; readonly y: number }; readonly scale: number };
  readonly viewport: { readonly width: number; readonly height: number };
  readonly canvas: HTMLCanvasElement;
  readonly bytes: number;
  readonly feed: {
    readonly size: number;
    readonly board: { readonly items: ReadonlyMap<string, object> };
    readonly painter: {
      readonly report: { readonly bytes: number; readonly bitmaps: number; readonly loading: number };
    };
  };
  readonly status: { readonly isCurrent: boolean; readonly isSharp: boolean; readonly isComplete: boolean };
  onFrame: ((report: { readonly unpaintedShare: number; readonly bufferAgeMs: number }) => void) | undefined;
  setCamera(camera: { centre: { x: number; y: number }; scale: number }): void;
}

interface Window {
  miraderoStage?: MeasuredStage;
}

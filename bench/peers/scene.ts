/** What every peer page shows: the same placements, by the same 128-px copies. */
export interface PeerScene {
  readonly images: readonly string[];
  /** x, y of the centre and index of the image, for each placement; all are 200 × 133.3. */
  readonly placements: readonly (readonly [number, number, number])[];
}

export const PLACEMENT = { width: 200, height: 400 / 3 } as const;

declare global {
  interface Window {
    /** Shows the board with this centre and scale at the next frame. */
    setView: ((x: number, y: number, scale: number) => void) | undefined;
  }
}

export const fetchScene = async (): Promise<PeerScene> =>
  (await fetch('/scene.json')).json() as Promise<PeerScene>;

export const loadBitmaps = (scene: PeerScene): Promise<ImageBitmap[]> =>
  Promise.all(scene.images.map(async (path) => createImageBitmap(await (await fetch(path)).blob())));

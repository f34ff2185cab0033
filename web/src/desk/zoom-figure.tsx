import { useSyncExternalStore } from 'react';
import type { StageView } from '../stage/index.ts';

/** The zoom as a figure: board units to CSS pixels. */
export function ZoomFigure({ view }: { view: StageView | undefined }) {
  const percent = useSyncExternalStore(
    (listener) => view?.onCamera(listener) ?? (() => {}),
    () => (view ? Math.round(view.camera.scale * 1000) / 10 : 100),
  );
  const words = percent < 10 ? percent.toFixed(1) : Math.round(percent).toLocaleString('en');
  return (
    <output className="figures px-3 text-muted" aria-label="Zoom" data-testid="zoom">
      {words}&thinsp;%
    </output>
  );
}

import type { Look, StageView } from '../stage/index.ts';
import { createStore, useStore } from '../state/index.ts';

const NOWHERE = createStore<Pick<Look, 'camera'>>(() => ({ camera: { centre: { x: 0, y: 0 }, scale: 1 } }));

/** The zoom as a figure: board units to CSS pixels. */
export function ZoomFigure({ view }: { view: StageView | undefined }) {
  const percent = useStore(view?.store ?? NOWHERE, ({ camera }) => Math.round(camera.scale * 1000) / 10);
  const words = percent < 10 ? percent.toFixed(1) : Math.round(percent).toLocaleString('en');
  return (
    <output className="figures px-3 text-muted" aria-label="Zoom" data-testid="zoom">
      {words}&thinsp;%
    </output>
  );
}

import type { Placement } from '@miradero/core/items';
import { type ModelView, NAMED_VIEWS, takenView, turnOf } from '@miradero/core/model';
import type { Desk } from '../desk/index.ts';
import type { BroughtFile } from '../gather/index.ts';
import { bringBelow, takePictures } from '../live/index.ts';
import { modelsOn } from './models-on-desk.ts';
import { turningSettings } from './settings.ts';

/** Pixels along the longer side of a picture that is taken of a model. */
const TAKEN_PX = 2_400;

/** Without a sign before nought. */
export const wholeDeg = (deg: number): number => Math.round(deg) + 0;

/** "front", or "40° round, 20° up". */
export function viewWords({
  azimuthDeg,
  elevationDeg,
}: Pick<ModelView, 'azimuthDeg' | 'elevationDeg'>): string {
  const named = NAMED_VIEWS.find(
    ([, azimuth, elevation]) =>
      Math.abs(elevation - elevationDeg) < 0.05 &&
      (Math.abs(elevation) === 90 || Math.abs(azimuth - azimuthDeg) % 360 < 0.05),
  );
  return named ? named[0] : `${wholeDeg(azimuthDeg)}° round, ${wholeDeg(elevationDeg)}° up`;
}

async function takeViews(desk: Desk, item: Placement, views: readonly ModelView[]): Promise<void> {
  const models = modelsOn(desk);
  const picture = models.pictureOf(item);
  const model = models.open(item)?.model;
  if (!picture || !model) return;
  const by = TAKEN_PX / Math.max(item.pictureWidth, item.pictureHeight);
  const size = { width: Math.round(item.pictureWidth * by), height: Math.round(item.pictureHeight * by) };
  const stance = models.stanceOf(item);
  await takePictures(desk, async (steps) => {
    const files: BroughtFile[] = [];
    for (const [index, view] of views.entries()) {
      steps.at('taking view', index + 1, views.length);
      const name = `${picture.name}, ${viewWords(view)}`;
      const bytes = await model.picture(view, { stance, ...size });
      files.push({
        ...{ kind: 'file', file: new File([bytes], `${name}.png`, { type: 'image/png' }), name },
        taken: { model: picture.id, ...takenView(view) },
        source: { ...picture.source, title: picture.source.title ?? picture.name },
      });
    }
    steps.signal.throwIfAborted();
    await bringBelow(desk, item, files, `A turn of ${picture.name}`);
    const [only, several] =
      picture.parts.length > 0
        ? ['It counts', 'They count']
        : ['Its figures are kept with it', 'Their figures are kept with them'];
    const rest =
      picture.parts.length > 0
        ? ' for what the model serves, with true figures.'
        : '; where the model is given to a subject first, its blind spots are filled.';
    const isOne = views.length === 1;
    desk.say(isOne ? 'This view stands below, as a picture.' : `${views.length} views stand below.`, [
      (isOne ? only : several) + rest,
    ]);
  });
}

/** The view as it is becomes a picture, with its figures. */
export async function takeView(desk: Desk, item: Placement): Promise<void> {
  const view = modelsOn(desk).viewOf(item);
  if (view) await takeViews(desk, item, [view]);
}

/** Views all around become pictures, beginning with the one as it is. */
export async function takeTurn(desk: Desk, item: Placement): Promise<void> {
  const view = modelsOn(desk).viewOf(item);
  if (view) await takeViews(desk, item, turnOf(view, turningSettings.now.stills));
}

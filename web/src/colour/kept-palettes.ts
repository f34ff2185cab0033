import type { KeptPalette, PutPalette } from '@miradero/core/schema';
import { ask } from '../sync/index.ts';

export const KEPT_PALETTES = ['kept palettes'] as const;

/** Palettes on the shelf, the latest first. */
export const keptPalettes = async (): Promise<readonly KeptPalette[]> =>
  (await ask('GET /api/palettes')).palettes;

/** Keeps a palette on the shelf, or alters one. @throws the errors of `askServer` */
export async function keepPalette(id: string, palette: PutPalette): Promise<void> {
  const { title, subject, viewpoint, isPutAway } = palette;
  const swatches = palette.swatches.map(({ hex, share, name }) => ({ hex, share, name }));
  await ask('POST /api/palettes/:id', {
    parameters: { id },
    body: { title, subject, viewpoint, isPutAway, swatches },
  });
}

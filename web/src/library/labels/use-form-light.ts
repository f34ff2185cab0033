import type { Picture } from '@miradero/core/schema';
import { type FormLight, lightFromForm } from '@miradero/core/subject';
import { useEffect, useState } from 'react';
import { levelFor } from '../../shell/index.ts';

const SIDE = 256;

/** What the shading of a form that was marked on a picture says of its light; undefined where none is, or it says nothing. */
export function useFormLight(picture: Picture | undefined): FormLight | undefined {
  const [light, setLight] = useState<FormLight>();
  const region = picture?.purposes.find(
    ({ purpose, isNot, region }) => region && !isNot && purpose === 'form',
  )?.region;
  const level = picture && levelFor(picture, SIDE);
  const key = region && level ? JSON.stringify([level.hash, region]) : undefined;
  useEffect(() => {
    setLight(undefined);
    if (!key) return;
    const [hash, part] = JSON.parse(key) as [string, NonNullable<typeof region>];
    const ending = new AbortController();
    const look = async () => {
      const response = await fetch(`/api/levels/${hash}`, { signal: ending.signal });
      const bitmap = await createImageBitmap(await response.blob());
      const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
      const context = canvas.getContext('2d', { willReadFrequently: true })!;
      context.drawImage(bitmap, 0, 0);
      const { width, height, data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
      if (!ending.signal.aborted) setLight(lightFromForm({ width, height, data }, part));
    };
    look().catch(() => {
      // Without the level there is no estimate; the dial stays empty.
    });
    return () => ending.abort();
  }, [key]);
  return light;
}

import type { Picture } from '@miradero/core/schema';
import { type FormLight, lightFromForm } from '@miradero/core/subject';
import { useEffect, useRef, useState } from 'react';
import { sourceOfPicture } from '../../desk/index.ts';
import { pixelPool } from '../../pixels/index.ts';

const SIDE = 256;
const WHOLE = { x: 0, y: 0, width: 1, height: 1 };

/** What the shading of a form that was marked on a picture says of its light; undefined where none is, or it says nothing. */
export function useFormLight(picture: Picture | undefined): FormLight | undefined {
  const [light, setLight] = useState<FormLight>();
  const region = picture?.purposes.find(
    ({ purpose, isNot, region }) => region && region.width > 0 && !isNot && purpose === 'form',
  )?.region;
  const latest = useRef(picture);
  latest.current = picture;
  const key = region && picture ? JSON.stringify([region, picture.levels]) : undefined;
  useEffect(() => {
    setLight(undefined);
    if (!key) return;
    const [part] = JSON.parse(key) as [NonNullable<typeof region>];
    const ending = new AbortController();
    const request = { source: sourceOfPicture(latest.current!), part: WHOLE, side: SIDE };
    pixelPool()
      .ask('region', request, ending)
      .then(
        (pixels) => setLight(lightFromForm(pixels, part)),
        // Without pixels there is no estimate; the dial stays empty.
        () => {},
      );
    return () => ending.abort();
  }, [key]);
  return light;
}

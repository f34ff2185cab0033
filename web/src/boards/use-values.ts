import { munsellValueOfSrgb, oklabToHex, paletteOfHistogram } from '@miradero/core/colour';
import { applyAffine, invertAffine, type Point } from '@miradero/core/geometry';
import { isPalette, isPlacement, pictureToBoard } from '@miradero/core/items';
import type { Placement } from '@miradero/core/schema';
import { useEffect, useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { pixelPool } from '../pixels/index.ts';
import { useMade } from '../state/index.ts';

/** Steps of the silhouette: five to a value step. */
const BINS = 50;
/** Longest side of what a distribution is counted from: 65,000 pixels tell it within a percent. */
const COUNTED_SIDE = 256;
const AGAIN_MS = 400;

/** How the values of the selected picture are distributed, darkest first; undefined while nothing is selected. */
export function useDistribution(desk: Desk): Float32Array | undefined {
  const [distribution, setDistribution] = useState<Float32Array>();
  const { picture, ...trim } = useMade(desk.watch, () => {
    const [only] = desk.selected;
    const placement = desk.selected.length === 1 && only && isPlacement(only) ? only : undefined;
    return { picture: placement?.picture, ...(placement?.trim ?? { x: 0, y: 0, width: 1, height: 1 }) };
  });
  const { x, y, width, height } = trim;
  useEffect(() => {
    if (picture === undefined) {
      setDistribution(undefined);
      return;
    }
    const ending = new AbortController();
    let timer: ReturnType<typeof setTimeout>;
    const count = async () => {
      const source = desk.feed.source(picture);
      if (source?.failure) return;
      const part = { x, y, width, height };
      const ask = async (side: number) =>
        source &&
        pixelPool()
          .ask('distribution', { source, part, side, bins: BINS }, ending)
          .catch(() => undefined);
      const [placement] = desk.selected.filter(isPlacement);
      // Without the server the browser may still have what the stage shows.
      const shares = (await ask(COUNTED_SIDE)) ?? (placement && (await ask(sideOnScreen(desk, placement))));
      if (ending.signal.aborted) return;
      if (shares) setDistribution(shares);
      // There are no pixels yet, or the server is away.
      else timer = setTimeout(() => void count(), AGAIN_MS);
    };
    void count();
    return () => {
      ending.abort();
      clearTimeout(timer);
    };
  }, [desk, picture, x, y, width, height]);
  return distribution;
}

/** So many colours of a picture lie beside the steps. */
const RAIL_COLOURS = 7;

export interface RailColour {
  readonly hex: string;
  readonly share: number;
}

/** Device pixels that the longest side of a whole picture has on screen: what is read is what is seen. */
function sideOnScreen(desk: Desk, { width, trim, pictureWidth, pictureHeight }: Placement): number {
  const scale = (desk.view?.camera.scale ?? 1) * window.devicePixelRatio;
  return (width / trim.width) * Math.max(1, pictureHeight / pictureWidth) * scale;
}

/** The Munsell value under the pointer, read from what the stage shows; undefined where no picture is. */
export function usePointerValue(desk: Desk): number | undefined {
  const [value, setValue] = useState<number>();
  useEffect(() => {
    let isAsking = false;
    let isStale = false;
    const valueAt = async (placement: Placement, pointer: Point) => {
      const source = desk.feed.source(placement.picture);
      if (!source) return undefined;
      const at = applyAffine(invertAffine(pictureToBoard(placement)), pointer);
      const side = sideOnScreen(desk, placement);
      // Where there are no pixels yet there is no value.
      const colour = await pixelPool()
        .ask('colour', { source, at, side })
        .catch(() => undefined);
      return colour && munsellValueOfSrgb(...colour);
    };
    const look = async () => {
      isStale = true;
      if (isAsking) return;
      isAsking = true;
      while (isStale) {
        isStale = false;
        const { pointer, hovered } = desk;
        const item = hovered === undefined ? undefined : desk.session.items.get(hovered);
        setValue(pointer && item && isPlacement(item) ? await valueAt(item, pointer) : undefined);
      }
      isAsking = false;
    };
    return desk.hover.subscribe(() => void look());
  }, [desk]);
  return value;
}

/** Colours of a palette, or of the picture that is selected alone, with their shares. */
export function useSelectedColours(desk: Desk): readonly RailColour[] {
  const { picture, key, own } = useMade(desk.watch, () => {
    const [only, ...others] = desk.selected;
    const one = others.length === 0 ? only : undefined;
    const placement = one && isPlacement(one) ? one : undefined;
    return {
      picture: placement?.id,
      key: placement && JSON.stringify([placement.picture, placement.trim]),
      own: one && isPalette(one) ? one.swatches : undefined,
    };
  });
  const [counted, setCounted] = useState<readonly RailColour[]>([]);
  useEffect(() => {
    setCounted([]);
    const placement = picture === undefined ? undefined : desk.session.items.get(picture);
    const source = placement && isPlacement(placement) ? desk.feed.source(placement.picture) : undefined;
    if (!source || !placement || !isPlacement(placement)) return;
    const ending = new AbortController();
    pixelPool()
      .ask('histogram', { source, part: placement.trim, outline: undefined, side: COUNTED_SIDE }, ending)
      .then(
        (histogram) =>
          setCounted(
            paletteOfHistogram(histogram, { count: RAIL_COLOURS }).map((swatch) => ({
              hex: oklabToHex(swatch),
              share: swatch.share,
            })),
          ),
        // Where there are no pixels there are no colours.
        () => {},
      );
    return () => ending.abort();
  }, [desk, picture, key]);
  return own ?? counted;
}

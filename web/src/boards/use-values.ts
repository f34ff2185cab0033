import { munsellValueOfSrgb } from '@miradero/core/colour';
import { applyAffine, invertAffine } from '@miradero/core/geometry';
import { isPlacement, pictureToBoard } from '@miradero/core/items';
import type { Placement } from '@miradero/core/schema';
import { useEffect, useState } from 'react';
import type { Desk } from '../desk/index.ts';

/** Steps of the silhouette: five to a value step. */
const BINS = 50;
const AGAIN_MS = 400;

const sameTrim = (a: Placement, b: Placement | undefined) =>
  b !== undefined && a.id === b.id && JSON.stringify(a.trim) === JSON.stringify(b.trim);

/** How the values of the selected picture are distributed, darkest first; undefined while nothing is selected. */
export function useDistribution(desk: Desk): Float32Array | undefined {
  const [distribution, setDistribution] = useState<Float32Array>();
  useEffect(() => {
    let counted: Placement | undefined;
    let timer: ReturnType<typeof setTimeout>;
    const count = (placement: Placement) => {
      void desk.feed.painter.distributionOf(placement.picture, placement.trim, BINS).then((shares) => {
        if (!sameTrim(placement, counted)) return;
        if (shares) setDistribution(shares);
        else timer = setTimeout(() => count(placement), AGAIN_MS);
      });
    };
    const look = () => {
      const [only] = desk.selected;
      const placement = desk.selected.length === 1 && only && isPlacement(only) ? only : undefined;
      if (placement === undefined) {
        counted = undefined;
        setDistribution(undefined);
      } else if (!sameTrim(placement, counted)) {
        counted = placement;
        clearTimeout(timer);
        count(placement);
      }
    };
    look();
    const end = desk.watch(look);
    return () => {
      end();
      clearTimeout(timer);
      counted = undefined;
    };
  }, [desk]);
  return distribution;
}

/** The Munsell value under the pointer, read from a level; undefined where no picture is. */
export function usePointerValue(desk: Desk): number | undefined {
  const [value, setValue] = useState<number>();
  useEffect(() => {
    let isAsking = false;
    let isStale = false;
    const look = async () => {
      isStale = true;
      if (isAsking) return;
      isAsking = true;
      while (isStale) {
        isStale = false;
        const { pointer, hovered } = desk;
        const item = hovered === undefined ? undefined : desk.session.items.get(hovered);
        if (pointer === undefined || item === undefined || !isPlacement(item)) {
          setValue(undefined);
          continue;
        }
        const at = applyAffine(invertAffine(pictureToBoard(item)), pointer);
        const colour = await desk.feed.painter.colourAt(item.picture, at.x, at.y);
        setValue(colour ? munsellValueOfSrgb(...colour) : undefined);
      }
      isAsking = false;
    };
    return desk.hover.subscribe(() => void look());
  }, [desk]);
  return value;
}

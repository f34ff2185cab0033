import type { Picture } from '@miradero/core/schema';
import { type MouseEvent, useCallback, useState } from 'react';
import type { Found } from './use-library.ts';

export interface Selection {
  /** In the order in which they were chosen. */
  readonly pictures: readonly Picture[];
  readonly ids: ReadonlySet<string>;
  /** Where the keyboard is. */
  readonly focus: number;
  has(id: string): boolean;
  /** A press on a place: alone, one more (`isMore`), or all from the last one on (`isRange`). */
  press(index: number, how: { isMore: boolean; isRange: boolean }): void;
  moveFocus(index: number, isRange: boolean): void;
  set(pictures: readonly Picture[]): void;
  clear(): void;
}

/** A press that takes one more: with a key, or by a finger, which has no key. */
export const isMore = ({ ctrlKey, metaKey, nativeEvent }: MouseEvent): boolean =>
  ctrlKey || metaKey || (nativeEvent as PointerEvent).pointerType === 'touch';

/** What is selected in a library of which only some is known at a time. */
export function useSelection(found: Found): Selection {
  const [pictures, setPictures] = useState<readonly Picture[]>([]);
  const [focus, setFocus] = useState(0);
  const [anchor, setAnchor] = useState(0);
  const ids = new Set(pictures.map(({ id }) => id));

  const range = (from: number, to: number): Picture[] => {
    const [first, last] = from < to ? [from, to] : [to, from];
    const between: Picture[] = [];
    for (let index = first; index <= last; index += 1) {
      const picture = found.at(index);
      if (picture) between.push(picture);
    }
    return between;
  };
  return {
    pictures,
    ids,
    focus,
    has: (id) => ids.has(id),
    press(index, { isMore, isRange }) {
      const picture = found.at(index);
      if (!picture) return;
      setFocus(index);
      if (isRange) {
        setPictures(range(anchor, index));
        return;
      }
      setAnchor(index);
      if (!isMore) setPictures([picture]);
      else if (ids.has(picture.id)) setPictures(pictures.filter(({ id }) => id !== picture.id));
      else setPictures([...pictures, picture]);
    },
    moveFocus(index, isRange) {
      const to = Math.max(0, Math.min(found.total - 1, index));
      setFocus(to);
      const picture = found.at(to);
      if (isRange) setPictures(range(anchor, to));
      else {
        setAnchor(to);
        setPictures(picture ? [picture] : []);
      }
    },
    set: setPictures,
    clear: useCallback(() => setPictures([]), []),
  };
}

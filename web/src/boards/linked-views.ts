import type { Camera } from '@miradero/core/geometry';
import type { Desk } from '../desk/index.ts';
import { inOrder } from '../looking/index.ts';
import type { StageView } from '../stage/index.ts';

/**
 * Where another view looks when one moved, both as they looked when they were linked: ways on the screen and changes of scale
 * are the same in both.
 */
export function followed(now: Camera, was: Camera, other: Camera): Camera {
  const factor = was.scale / other.scale;
  return {
    centre: {
      x: other.centre.x + (now.centre.x - was.centre.x) * factor,
      y: other.centre.y + (now.centre.y - was.centre.y) * factor,
    },
    scale: (other.scale * now.scale) / was.scale,
  };
}

/** Lets several views look around together. @returns a function that ends it */
export function linkViews(views: readonly StageView[]): () => void {
  const starts = new Map(views.map((view) => [view, view.camera]));
  let isFollowing = false;
  const ends = views.map((view) =>
    view.store.subscribe(() => {
      // What follows is not followed in turn.
      if (isFollowing) return;
      isFollowing = true;
      for (const other of views)
        if (other !== view) other.setCamera(followed(view.camera, starts.get(view)!, starts.get(other)!));
      isFollowing = false;
    }),
  );
  return () => {
    for (const end of ends) end();
  };
}

/** Lays the mirror on every one of them, or takes it off where all have it. */
export function mirrorAll(desks: readonly Desk[]): void {
  const isMirrored = (desk: Desk) => desk.now.lenses.some(({ lens, on }) => lens === 'mirror' && on === null);
  const isOn = !desks.every(isMirrored);
  for (const desk of desks) {
    const others = desk.now.lenses.filter(({ lens }) => lens !== 'mirror');
    desk.layLenses(
      isOn ? inOrder([...others, { lens: 'mirror', amount: desk.lensAmount('mirror'), on: null }]) : others,
    );
  }
}

import { arrange, boundsOf, keysOnTop } from '@miradero/core/board';
import { centreOf, unionOf } from '@miradero/core/geometry';
import { createPlacement, isPlacement } from '@miradero/core/items';
import type { Picture } from '@miradero/core/schema';
import { commitElsewhere, type Sync } from '../../sync/index.ts';

/** What is seen of a board that nobody looks at, board units: room for a row of pictures. */
const VIEW = { width: 1600, height: 1000 };

/** What has to be known of a picture to let it stand. */
export type Placeable = Pick<Picture, 'id' | 'width' | 'height'>;

/** Lets pictures stand on a board that is not in front: in free space beside what stands there. One change. */
export const placeOnBoard = (sync: Sync, board: string, pictures: readonly Placeable[]): Promise<void> =>
  commitElsewhere(sync, board, (items) => {
    const standing = items.filter(({ removed }) => !removed);
    const bounds = standing.map(boundsOf);
    const all = unionOf(bounds);
    const near = all ? { x: all.x + all.width, y: all.y + all.height / 2 } : { x: 0, y: 0 };
    const view = { x: near.x - VIEW.width / 2, y: near.y - VIEW.height / 2, ...VIEW };
    const placements = standing.filter(isPlacement).map(boundsOf);
    const places = arrange(pictures, near, view, placements, bounds);
    const stacks = keysOnTop(items, pictures.length);
    return pictures.map((picture, index) => ({
      create: createPlacement({
        ...{ id: crypto.randomUUID(), stack: stacks[index]!, picture: picture.id },
        ...{ pictureWidth: picture.width, pictureHeight: picture.height },
        ...{ centre: centreOf(places[index]!), width: places[index]!.width },
      }),
    }));
  });

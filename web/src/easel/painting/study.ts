import { boundsOf, keysOnTop } from '@miradero/core/board';
import { unionOf } from '@miradero/core/geometry';
import { createPlacement, heightOf, isPlacement, type Placement } from '@miradero/core/items';
import { groundFor, studyFrame } from '@miradero/core/paint';
import type { Operation } from '@miradero/core/schema';
import type { Desk } from '../../desk/index.ts';
import { drawWith } from './hand/draw-with.ts';
import { revealBesideCard } from './hand/show-to-draw.ts';
import type { StudiedPart } from './messages.ts';
import { pixelsOf, TONE_PX } from './sheet/ground-tones.ts';
import { beginDrawing } from './versions/open-painting.ts';

/** Longest side of a study, px, and pixels an inch: enough to be printed a hand wide. */
const MOST_PX = 2_400;
const LEAST_PX = 900;
const PPI = 300;

/** Where one is being begun: the key pressed twice makes one. */
const begun = new WeakSet<Desk>();

/** Makes a study of the picture that is selected, or under the pointer: a frame beside it, on a ground of its mean colour. */
export async function makeStudy(desk: Desk): Promise<void> {
  const [item, ...others] = desk.targets.filter(isPlacement).filter(({ drawing }) => !drawing);
  if (!item || others.length > 0) {
    desk.say('Select the one picture of which a study is to be made.');
    return;
  }
  if (begun.has(desk)) return;
  begun.add(desk);
  const begin = async () => {
    const studied: StudiedPart = { picture: item.picture, part: item.trim };
    const { data } = await pixelsOf(desk, studied, TONE_PX);
    const fresh = { ...sizeOf(item), ppi: PPI, ground: groundFor(data, 'mean'), reference: studied };
    const name = `Study of ${desk.sync.shelf.get(item.picture)?.name ?? 'a picture'}`;
    const drawing = crypto.randomUUID();
    return beginDrawing(desk, drawing, name, fresh, (picture) => place(desk, drawing, item, picture));
  };
  const showBoth = (_: Desk, study: Placement) =>
    revealBesideCard(desk, unionOf([boundsOf(item), boundsOf(study)])!);
  await drawWith(desk, begin, showBoth).finally(() => begun.delete(desk));
}

/** Pixels of a study: those of what is seen of the picture, within bounds. */
function sizeOf(item: Placement): { width: number; height: number } {
  const { trim, pictureWidth, pictureHeight, width } = item;
  const longest = Math.max(trim.width * pictureWidth, trim.height * pictureHeight);
  const side = Math.min(MOST_PX, Math.max(LEAST_PX, longest));
  const scale = side / Math.max(width, heightOf(item));
  return { width: Math.round(width * scale), height: Math.round(heightOf(item) * scale) };
}

/** The first version comes to stand beside the picture, as large; each later one in its place. */
function place(
  desk: Desk,
  drawing: string,
  reference: Placement,
  picture: { id: string; width: number; height: number },
): void {
  const { session } = desk;
  const known = [...session.items.values()].filter(isPlacement).filter((one) => one.drawing === drawing);
  const shown = { picture: picture.id, pictureWidth: picture.width, pictureHeight: picture.height };
  if (known.length > 0) {
    const outdated = known.filter((one) => !one.removed && one.picture !== picture.id);
    session.correct(outdated.map((one): Operation => ({ item: one.id, set: shown })));
    return;
  }
  const now = session.items.get(reference.id);
  const around = boundsOf(now && isPlacement(now) ? now : reference);
  const others = session.standing.filter(({ id }) => id !== reference.id).map(boundsOf);
  const frame = studyFrame(around, others);
  const centre = { x: frame.x + frame.width / 2, y: frame.y + frame.height / 2 };
  const [stack] = keysOnTop(session.standing, 1);
  const create = createPlacement({
    ...{ id: crypto.randomUUID(), stack: stack!, ...shown, drawing, centre, width: reference.width },
  });
  session.commit([{ create }]);
}

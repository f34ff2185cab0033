import { isPlacement, type Placement } from '@miradero/core/items';
import type { Desk, Seat, Tool } from '../desk/index.ts';
import { givePoster } from '../gather/index.ts';
import type { Drag, Press } from '../stage/index.ts';
import { MotionCard } from './motion-card.tsx';
import { playersOf } from './players.ts';

/** A notch of the wheel is this zoom. */
const NOTCH = 1.27;
/** With Shift. */
const FAR = 10;

const movingAmong = (desk: Desk, items: readonly { readonly kind: string }[]): Placement[] =>
  items.filter((item): item is Placement => isPlacement(item) && playersOf(desk).isMoving(item));

/** One animation or clip is gone through frame by frame. */
class Stepping implements Tool {
  readonly id = 'frame-by-frame';
  readonly hidesValues = true;
  Surface: NonNullable<Tool['Surface']> = MotionCard;
  readonly #on: string;
  #turned = 0;

  constructor(on: string) {
    this.#on = on;
  }

  offer = () => ({
    title: 'Frames',
    ids: ['play', 'escape'],
    hint: 'Arrows and the wheel step, a drag goes through all of it; Enter plays and stops.',
  });

  #item({ session }: Desk): Placement | undefined {
    const item = session.items.get(this.#on);
    return item && isPlacement(item) && !item.removed ? item : undefined;
  }

  isOver = (desk: Desk): boolean => !desk.selection.has(this.#on);

  arrow(desk: Desk, to: 'left' | 'right' | 'up' | 'down', isFar: boolean): void {
    this.#step(desk, (to === 'left' || to === 'up' ? -1 : 1) * (isFar ? FAR : 1));
  }

  confirm(desk: Desk): void {
    const item = this.#item(desk);
    if (item) playersOf(desk).toggle([item]);
  }

  wheel({ desk }: Seat, factor: number): void {
    this.#turned += Math.log(factor) / Math.log(NOTCH);
    const steps = Math.trunc(this.#turned);
    this.#turned -= steps;
    if (steps !== 0) this.#step(desk, -steps);
  }

  press({ desk, view }: Seat, { point }: Press): Drag | undefined {
    const item = this.#item(desk);
    const from = item && playersOf(desk).frameOf(item);
    const playing = item && playersOf(desk).playingOf(item);
    if (!item || from === undefined || !playing) return undefined;
    const frames = playing.to - playing.from + 1;
    const widthPx = item.width * view.camera.scale;
    return {
      move: (to) => playersOf(desk).show(item, from + Math.round(((to.x - point.x) / widthPx) * frames)),
      end: () => {},
      cancel: () => playersOf(desk).show(item, from),
    };
  }

  #step(desk: Desk, by: number): void {
    const item = this.#item(desk);
    if (item) playersOf(desk).step(item, by);
  }
}

/** What moves, of what is selected, else all of it that stands, goes so many frames on, whatever else one does. */
export function stepFrames(desk: Desk, by: number): void {
  const chosen = movingAmong(desk, desk.targets);
  const all = chosen.length > 0 ? chosen : movingAmong(desk, desk.session.standing);
  if (all.length === 0) desk.say('Nothing on this board moves.', ['Animations and clips do: bring one in.']);
  const players = playersOf(desk);
  for (const item of all) {
    const picture = players.pictureOf(item);
    if (!picture || picture.times) {
      players.step(item, by);
      continue;
    }
    const end = picture.onNews(() => {
      if (!picture.times && picture.why === undefined) return;
      end();
      players.step(item, by);
    });
  }
}

/** Goes through what moves frame by frame. */
export function stepThrough(desk: Desk): void {
  const moving = movingAmong(desk, desk.targets);
  const [only] = moving;
  if (!only || moving.length > 1) {
    desk.say(only ? 'Several of these move.' : 'Nothing that moves is selected.', [
      only ? 'Select one of them.' : 'Animations and clips move: select one, or point at it.',
    ]);
    return;
  }
  playersOf(desk).set(only, {});
  const film = desk.sync.shelf.get(only.picture)?.picture;
  if (film?.state === 'failed') void givePoster(desk.sync, film);
  desk.take(new Stepping(only.id), [only.id]);
}

/** Plays what moves among what is selected, else all on the board; or all of that stands. */
export function playOrStop(desk: Desk): void {
  const chosen = movingAmong(desk, desk.targets);
  const all = chosen.length > 0 ? chosen : movingAmong(desk, desk.session.standing);
  if (all.length === 0) desk.say('Nothing on this board moves.', ['Animations and clips do: bring one in.']);
  else playersOf(desk).toggle(all);
}

import type { Placement } from '@miradero/core/items';
import { cutsIn, posesIn, timecodeOf } from '@miradero/core/motion';
import type { Desk } from '../desk/index.ts';
import type { BroughtFile } from '../gather/index.ts';
import { bringBelow, type Steps, takePictures } from '../live/index.ts';
import { playersOf } from './players.ts';

/** Stills of one film that are taken at once, at most. */
export const MOST_STILLS = 120;

/** Which frames become stills: the one that is shown, each so many, those with which scenes begin, those at which a movement turns. */
export type Which = 'this' | 'cuts' | 'poses' | { readonly every: number };

async function framesFor(
  desk: Desk,
  item: Placement,
  which: Which,
  { at, signal }: Steps,
): Promise<number[]> {
  const players = playersOf(desk);
  const picture = players.pictureOf(item);
  const playing = players.playingOf(item);
  if (!picture || !playing) return [];
  if (which === 'this') return [players.frameOf(item) ?? 0];
  const within = (frame: number) => frame >= playing.from && frame <= playing.to;
  if (typeof which === 'object')
    return Array.from(
      { length: Math.ceil((playing.to - playing.from + 1) / which.every) },
      (_, at) => playing.from + at * which.every,
    );
  const total = picture.times?.startsUs.length ?? 0;
  const differences = await picture.survey((done) => at('looking through frame', done, total), signal);
  const cuts = cutsIn(differences);
  if (which === 'poses') return posesIn(differences, cuts).filter(within);
  return [playing.from, ...cuts.filter((frame) => frame > playing.from && within(frame))];
}

/** Stills of what moves come onto the board below it, with the film's title, their time and its source; several as a cluster. */
export async function takeStills(desk: Desk, item: Placement, which: Which): Promise<void> {
  const picture = playersOf(desk).pictureOf(item);
  const film = desk.sync.shelf.get(item.picture)?.picture;
  const times = picture?.times;
  if (!picture || !film || !times) return;
  await takePictures(desk, async (steps) => {
    const all = await framesFor(desk, item, which, steps);
    if (all.length === 0) {
      desk.say('No key pose was found.', ['Nothing in it turns or stops between two movements.']);
      return;
    }
    const frames = all.slice(0, MOST_STILLS);
    const stills: BroughtFile[] = [];
    for (const [index, frame] of frames.entries()) {
      steps.at('taking still', index + 1, frames.length);
      const name = `${film.name}, ${timecodeOf(times.startsUs[frame]!)}`;
      const file = new File([await picture.still(frame)], `${name.replaceAll(':', '.')}.png`, {
        type: 'image/png',
      });
      stills.push({
        kind: 'file',
        file,
        name,
        source: { ...film.source, title: film.source.title ?? film.name },
      });
    }
    steps.signal.throwIfAborted();
    await bringBelow(desk, item, stills, `Stills of ${film.name}`);
    const more = all.length > frames.length ? [`The first ${frames.length} of ${all.length}.`] : [];
    desk.say(frames.length === 1 ? 'A still stands below.' : `${frames.length} stills stand below.`, more);
  });
}

import { pixelsOfSheet } from '@miradero/core/easel';
import { isPlacement, type Placement } from '@miradero/core/items';
import type { Desk } from '../../../desk/index.ts';
import { liveOn } from '../../../live/index.ts';
import { createStore, useStore } from '../../../state/index.ts';
import { drawingNamed } from '../../following/drawing-named.ts';
import { showVersion } from '../../following/followed-drawings.ts';
import { sheetOf } from '../../sheet-of.ts';
import type { FreshSheet } from '../messages.ts';
import { MOST_PIXELS } from '../most-pixels.ts';
import { Painting } from '../sheet/painting.ts';
import { VersionMaker } from './version-maker.ts';

/** What is drawn on a sheet without another program is called so. */
export const DRAWN_HERE = 'Drawn here';
const TYPE = 'image/openraster';

/** What is painted on a desk's board, and what makes versions of it. */
export interface Opened {
  readonly painting: Painting;
  readonly versions: VersionMaker;
  readonly name: string;
  close(): void;
}
const ofDesk = new WeakMap<Desk, ReturnType<typeof makeStore>>();
const makeStore = () => createStore<{ readonly opened: Opened | undefined }>(() => ({ opened: undefined }));

/** What is painted on a desk's board right now. */
export function openedOn(desk: Desk) {
  const store = ofDesk.get(desk) ?? makeStore();
  ofDesk.set(desk, store);
  return store;
}
export const useOpened = (desk: Desk): Opened | undefined => useStore(openedOn(desk), ({ opened }) => opened);

/** Whether something on a board was drawn here: its newest version has layers. */
export const isDrawnHere = ({ sync }: Desk, { drawing, picture }: Placement): boolean => {
  const known = sync.shelf.get(picture);
  return typeof drawing === 'string' && (known?.picture?.type ?? known?.file?.type) === TYPE;
};

const lockOf = (drawing: string): string => `miradero-painted-${drawing}`;

/** So often it is asked for again, and so long apart, ms: a page that is being left makes its last version first. */
const ASKED = { times: 20, everyMs: 200 } as const;
/** That a version was made is on the disk so soon, or it is made once more the next time, ms. */
const KEPT_WITHIN_MS = 3_000;

const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));

/** Has a drawing for this window alone. @returns what lets go of it; undefined where another window has it */
async function hold(drawing: string): Promise<(() => void) | undefined> {
  for (let time = 0; time < ASKED.times; time += 1) {
    const letGo = await holdNow(drawing);
    if (letGo) return letGo;
    await pause(ASKED.everyMs);
  }
  return undefined;
}

function holdNow(drawing: string): Promise<(() => void) | undefined> {
  return new Promise((resolve) => {
    void navigator.locks.request(lockOf(drawing), { ifAvailable: true }, (lock) => {
      if (!lock) {
        resolve(undefined);
        return undefined;
      }
      return new Promise<void>((letGo) => resolve(letGo));
    });
  });
}

/** Its newest version as a file, from this computer where it has not been sent yet. @throws Error in words */
async function fileOf({ sync }: Desk, picture: string): Promise<Blob> {
  const known = sync.shelf.get(picture);
  if (known?.file) return known.file.bytes;
  const answer = await fetch(`/api/pictures/${picture}/original`).catch(() => undefined);
  if (!answer?.ok) throw new Error('The drawing does not come: the server is away.');
  return answer.blob();
}

/** @throws Error in words, where a sheet is too large to be drawn on here */
export function checkPixels({ width, height }: { readonly width: number; readonly height: number }): void {
  const million = (pixels: number) => (pixels / 1_000_000).toFixed(0);
  if (width * height > MOST_PIXELS)
    throw new Error(
      `It has ${million(width * height)} million pixels; up to ${million(MOST_PIXELS)} million can be drawn on here. Make the paper smaller, or follow the file of another program.`,
    );
}

/** How a drawing comes onto the board once its first version is made. */
export type Place = (picture: { id: string; width: number; height: number }) => void;

/** Opens a drawing to be painted on, or goes on with it. @throws Error in words */
async function open(
  desk: Desk,
  drawing: string,
  from: { name: string; version: string | null; fresh: FreshSheet | null; place: Place },
): Promise<Opened> {
  const store = openedOn(desk);
  const known = store.getState().opened;
  if (known?.painting.drawing === drawing) return known;
  known?.close();
  const letGo = await hold(drawing);
  if (!letGo) throw new Error('It is being drawn on in another window.');
  try {
    const file = from.version === null ? Promise.resolve(null) : fileOf(desk, from.version).catch(() => null);
    const painting = new Painting(desk, drawing, { version: from.version, file, fresh: from.fresh });
    const versions = new VersionMaker(desk, painting, { name: from.name, place: from.place });
    const stop = liveOn(desk).add(painting);
    const opened: Opened = {
      ...{ painting, versions, name: from.name },
      close() {
        stop();
        painting.close();
      },
    };
    // Also where the board itself is closed: what was painted becomes a version first.
    painting.onClose = () => {
      versions.close();
      if (store.getState().opened === opened) store.setState({ opened: undefined });
      void versions
        .makeNow()
        .catch(() => {})
        .then(() => Promise.race([painting.keep(), pause(KEPT_WITHIN_MS)]))
        .then(() => painting.terminate())
        .then(letGo);
    };
    await ready(painting).catch((error: unknown) => {
      opened.close();
      throw error;
    });
    store.setState({ opened });
    return opened;
  } catch (error) {
    letGo();
    throw error;
  }
}

function ready(painting: Painting): Promise<void> {
  return new Promise((resolve, reject) => {
    const look = () => {
      const { facts, why } = painting.store.getState();
      if (!facts && !why) return;
      end();
      if (why) reject(new Error(why));
      else resolve();
    };
    const end = painting.store.subscribe(look);
    look();
  });
}

/** The drawing that a hand would draw on: what is selected, or the sheet's. */
const standing = (desk: Desk): Placement | undefined =>
  desk.selected.filter(isPlacement).find((one) => isDrawnHere(desk, one)) ??
  desk.session.standing.filter(isPlacement).find((one) => isDrawnHere(desk, one));

/** Opens what stands on a board and was drawn here. @throws Error in words */
export function openStanding(desk: Desk, item: Placement): Promise<Opened> {
  const name = desk.sync.shelf.get(item.picture)?.name ?? DRAWN_HERE;
  const drawing = item.drawing!;
  return open(desk, drawing, {
    ...{ name, version: item.picture, fresh: null },
    place: (picture) => showVersion(desk, drawing, picture),
  });
}

/** Begins a drawing. Its first version, a ground alone, is made at once. @throws Error in words */
export async function beginDrawing(
  desk: Desk,
  drawing: string,
  name: string,
  fresh: FreshSheet,
  place: Place,
): Promise<Opened> {
  checkPixels(fresh);
  const opened = await open(desk, drawing, { name, version: null, fresh, place });
  await opened.versions.makeNow();
  return opened;
}

/** Opens what is selected, or what is drawn on the sheet, or begins that. @throws Error in words */
export async function openForDrawing(desk: Desk): Promise<Opened> {
  const item = standing(desk);
  if (item) return openStanding(desk, item);
  const sheet = sheetOf(desk);
  if (!sheet)
    throw new Error('Here is nothing to draw on: make a study of a picture, or set up a sheet at the easel.');
  const { whole } = pixelsOfSheet(sheet.setup);
  checkPixels(whole);
  const named = await drawingNamed(desk.session.id, DRAWN_HERE).catch(() => crypto.randomUUID());
  // One that was taken off the board stays off: another is begun.
  const isOff = [...desk.session.items.values()].filter(isPlacement).some((one) => one.drawing === named);
  const drawing = isOff ? crypto.randomUUID() : named;
  const fresh = { ...whole, ppi: sheet.setup.ppi, ground: [255, 255, 255] as const, reference: null };
  return beginDrawing(desk, drawing, DRAWN_HERE, fresh, (picture) => showVersion(desk, drawing, picture));
}

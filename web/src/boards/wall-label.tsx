import { boundsOf, heightOf, normalTurn, opacityWithin, type Shape, sizeAbout } from '@miradero/core/board';
import {
  boardToScreen,
  centreOf,
  distance,
  intersectionOf,
  type Point,
  type Rectangle,
} from '@miradero/core/geometry';
import { sharpnessIn } from '@miradero/core/picture';
import type { Item, Picture, Placement } from '@miradero/core/schema';
import { type ReactNode, useEffect, useLayoutEffect, useRef, useState, useSyncExternalStore } from 'react';
import { Link } from 'react-router';
import type { Desk } from '../desk/index.ts';
import { EditableName, NumberField } from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import { selectionOnScreen } from './overlay.ts';
import { PictureSourceRows } from './picture-source.tsx';

const WIDTH = 244;
const GAP = 14;
const DATE = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline justify-between border-line border-t py-[5px]">
      <dt className="text-muted">{name}</dt>
      <dd className="figures">{children}</dd>
    </div>
  );
}

const sizeWords = (bytes: number) =>
  bytes >= 1024 * 1024
    ? `${(bytes / 1024 / 1024).toFixed(1)}\u2009MB`
    : `${Math.max(1, Math.round(bytes / 1024))}\u2009kB`;

/** Larger than this nothing stands on a board, board units. */
const MOST_UNITS = 1_000_000;

/** Where and how something stands, as numbers that can be typed over. */
function Standing({ desk, item }: { desk: Desk; item: Item }) {
  const set = (values: Readonly<Record<string, unknown>>) =>
    desk.session.commit([{ item: item.id, set: values }]);
  const height = heightOf(item);
  const refuse = (words: string) => desk.say(words);
  const scale = (factor: number) => {
    if (factor > 0) desk.session.commit(sizeAbout([item], item.centre, factor));
  };
  return (
    <>
      <Row name="On the board">
        <NumberField
          label="Width on the board"
          value={item.width}
          least={1}
          most={MOST_UNITS}
          onRefuse={refuse}
          onChange={(to) => scale(to / item.width)}
        />{' '}
        ×{' '}
        <NumberField
          label="Height on the board"
          value={height}
          least={1}
          most={MOST_UNITS}
          onRefuse={refuse}
          onChange={(to) => scale(to / height)}
        />
      </Row>
      <Row name="Turned">
        <NumberField
          label="Turned by degrees"
          value={item.turn}
          digits={1}
          unit="°"
          least={-360}
          most={360}
          onRefuse={refuse}
          onChange={(to) => set({ turn: normalTurn(to) })}
        />
      </Row>
      <Row name="Opacity">
        <NumberField
          label="Opacity in percent"
          value={item.opacity * 100}
          unit={'\u2009%'}
          step={5}
          least={0}
          most={100}
          onRefuse={refuse}
          onChange={(to) => set({ opacity: opacityWithin(to / 100) })}
        />
      </Row>
    </>
  );
}

function PictureFacts({ desk, placement }: { desk: Desk; placement: Placement }) {
  const known = desk.sync.shelf.get(placement.picture);
  const facts = known?.picture ?? known?.file;
  const addedAt = facts?.addedAt;
  const bytes = known?.picture?.bytes ?? known?.file?.bytes.size;
  const state = known?.picture?.failure ?? known?.file?.refusal;
  const colour = known?.picture && colourWords(known.picture);
  const { x, y, width, height } = placement.trim;
  const isTrimmed = x !== 0 || y !== 0 || width !== 1 || height !== 1;
  const round = (n: number) => Math.round(n).toLocaleString('en');
  return (
    <>
      <EditableName
        key={placement.picture}
        label="Name of the picture"
        className="text-[20px] leading-[1.2]"
        isWrapping
        name={known?.name ?? ''}
        onRename={(name) => desk.session.renamePicture(placement.picture, name)}
      />
      {facts && (
        <p className="mb-2 truncate text-[13px] text-muted" title={facts.fileName}>
          {facts.fileName}
        </p>
      )}
      {state && <p className="mb-2 text-vermilion text-[13px]">{state}</p>}
      <dl className="text-[13px]">
        <Row name="Original">
          {round(placement.pictureWidth)} × {round(placement.pictureHeight)}&thinsp;px
        </Row>
        {isTrimmed && (
          <Row name="Trimmed to">
            {round(placement.pictureWidth * width)} × {round(placement.pictureHeight * height)}&thinsp;px
          </Row>
        )}
        <Standing desk={desk} item={placement} />
        {sharpWords(placement, known?.picture) && (
          <Row name="Sharp up to">{sharpWords(placement, known?.picture)}</Row>
        )}
        {colour && <Row name="Colour">{colour}</Row>}
        {bytes !== undefined && <Row name="File">{sizeWords(bytes)}</Row>}
        {known?.picture && motionWords(known.picture) && <Row name="Moves">{motionWords(known.picture)}</Row>}
        {lensWords(known?.picture) && <Row name="Lens">{lensWords(known?.picture)}</Row>}
        {known?.picture?.facts.paperMm && (
          <Row name="On paper">
            {known.picture.facts.paperMm.width} × {known.picture.facts.paperMm.height}&thinsp;mm
          </Row>
        )}
        {addedAt && <Row name="Added">{DATE.format(new Date(addedAt))}</Row>}
      </dl>
      {known?.picture && <PictureSourceRows key={known.id} desk={desk} picture={known.picture} />}
      {known?.picture && (
        <Link
          to={`/library/${known.id}`}
          className="mt-2 block text-[13px] underline decoration-1 underline-offset-3"
        >
          look at it alone: purposes, parts, print
        </Link>
      )}
    </>
  );
}

/** To which zoom of the board its detail lasts at the size at which it stands. */
function sharpWords({ trim, width }: Placement, picture: Picture | undefined): string {
  if (!picture?.measures) return '';
  const isWhole = trim.width === 1 && trim.height === 1;
  const sharpness = isWhole ? picture.measures.sharpness : sharpnessIn(picture.measures.sharpnessGrid, trim);
  const zoom = (picture.width * trim.width * 2 * sharpness) / width;
  return sharpness === 0 ? '' : `about ${Math.round(zoom * 100)}\u2009% zoom`;
}

/** "12 frames, 1.2 s", for what moves. */
function motionWords({ kind, frames, durationMs }: Picture): string {
  if (kind === 'model') return 'a model, to be turned';
  if (kind === 'still') return '';
  const seconds = durationMs === null ? '' : `${(durationMs / 1000).toFixed(1)}\u2009s`;
  return [frames > 1 ? `${frames} frames` : '', seconds].filter(Boolean).join(', ');
}

/** The lens, as long as one that shows the same on small film where the file says so. */
function lensWords(picture: Picture | undefined): string {
  const { focalLength35Mm, focalLengthMm } = picture?.facts ?? {};
  if (focalLength35Mm) return `${focalLength35Mm}\u2009mm (35 mm film)`;
  return focalLengthMm ? `${focalLengthMm}\u2009mm` : '';
}

/** A picture's own colour space, where it is not the ordinary one. */
const colourWords = ({ colour, depth }: Picture): string =>
  [colour === 'sRGB' ? '' : colour, depth && depth > 8 ? `${depth}\u2009bit` : ''].filter(Boolean).join(', ');

function Facts({ desk, item }: { desk: Desk; item: Item }) {
  if (item.kind === 'placement') return <PictureFacts desk={desk} placement={item} />;
  return (
    <>
      <h2 className="mb-2 font-serif text-[20px] leading-[1.2]">Note</h2>
      <dl className="text-[13px]">
        <Standing desk={desk} item={item} />
      </dl>
    </>
  );
}

/** Things standing near the picture along whose edges the label may stand. */
const EDGES_CONSIDERED = 8;
/** Of a full board only the nearest things count as what the label may cover. */
const NEAR_CONSIDERED = 80;

/**
 * Where the label stands: beside, above or under the picture where there is room, else along the edges of what stands
 * near, within the view; where it covers least, then nearest. All in CSS pixels of the view.
 */
function placeFor(view: StageView, id: string, on: Rectangle, card: Shape): Point {
  const { width, height } = view.viewport;
  const { scale } = view.camera;
  const toView = (r: Rectangle): Rectangle => {
    const { x, y } = boardToScreen(view.camera, view.viewport, r);
    return { x, y, width: r.width * scale, height: r.height * scale };
  };
  const middle = centreOf(on);
  const standing = view.feed
    .itemsWithin(view.view)
    .map((item) => ({ id: item.id, area: toView(boundsOf(item)) }))
    .sort((a, b) => distance(centreOf(a.area), middle) - distance(centreOf(b.area), middle))
    .slice(0, NEAR_CONSIDERED);
  const beside = [on, ...standing.slice(0, EDGES_CONSIDERED).map(({ area }) => area)];
  const xs = beside.flatMap((r) => [r.x + r.width + GAP, r.x - GAP - card.width, r.x]);
  const ys = beside.flatMap((r) => [r.y, r.y + r.height + GAP, r.y - GAP - card.height]);
  const within = (low: number, high: number) => Math.max(GAP, Math.min(low, high - GAP));
  const candidates = xs.flatMap((x) =>
    ys.map((y) => ({ x: within(x, width - card.width), y: within(y, height - card.height) })),
  );
  const costOf = (at: Point) => {
    const area = { ...at, ...card };
    const covered = standing.reduce((sum, other) => {
      const shared = intersectionOf(other.area, area);
      // What the label is about should not be hidden by it.
      return sum + shared.width * shared.height * (other.id === id ? 2 : 1);
    }, 0);
    const [dx, dy] = gapBetween(on, area);
    return covered + Math.hypot(dx, dy) + distance(centreOf(area), middle) / 100;
  };
  const costs = candidates.map(costOf);
  return candidates[costs.indexOf(Math.min(...costs))]!;
}

/** Empty space between two rectangles, each way; 0 where they meet. */
const gapBetween = (a: Rectangle, b: Rectangle): [number, number] => [
  Math.max(0, b.x - a.x - a.width, a.x - b.x - b.width),
  Math.max(0, b.y - a.y - a.height, a.y - b.y - b.height),
];

/** Everything known about the selected picture, set like the label beside a picture in a museum. */
export function WallLabel({ desk, view }: { desk: Desk; view: StageView }) {
  useSyncExternalStore(desk.subscribe, desk.version);
  const [, redraw] = useState(0);
  const card = useRef<HTMLElement>(null);
  useEffect(() => {
    const again = () => redraw((count) => count + 1);
    const ends = [view.onCamera(again), desk.sync.shelf.subscribe(again), desk.feed.subscribe(again)];
    return () => {
      for (const end of ends) end();
    };
  }, [view, desk]);

  const [selected] = desk.selected;
  const item = selected && (desk.session.shown(selected.id) ?? selected);
  useLayoutEffect(() => {
    const element = card.current;
    const on = item && selectionOnScreen(view, [item]);
    if (!element || !on) return;
    const { x, y } = placeFor(view, item.id, on, { width: WIDTH, height: element.offsetHeight });
    element.style.transform = `translate(${Math.round(x)}px, ${Math.round(y)}px)`;
  });
  if (!desk.isLabelOpen || !item || desk.mode.kind !== 'rest') return null;
  return (
    <section
      ref={card}
      aria-label="Wall label"
      className="absolute top-0 left-0 z-10 border border-line bg-raised px-4 py-3"
      style={{ width: WIDTH }}
    >
      <Facts desk={desk} item={item} />
    </section>
  );
}

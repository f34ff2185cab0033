import { isSeen } from '@miradero/core/board';
import { boardToScreen, boundsOfPoints, type Point } from '@miradero/core/geometry';
import { isPlacement, keptOnBoard, type Placement, partOnBoard } from '@miradero/core/items';
import type { Desk } from '../../desk/index.ts';
import type { StageView } from '../../stage/index.ts';
import { useMade, useStore } from '../../state/index.ts';
import { type Label, labelsOf, labelWords } from './labelling.ts';

/** Labels of a picture smaller than this on screen would lie over each other, CSS pixels. */
const LEAST_PX = 96;
/** So many pictures show theirs at once. */
const MOST_PICTURES = 40;

interface Shown {
  readonly key: string;
  readonly label: Label;
  /** CSS pixels of the view. */
  readonly corners: readonly Point[];
}

function shownOn(view: StageView, placement: Placement, labels: readonly Label[]): Shown[] {
  const kept = boundsOfPoints(keptOnBoard(placement));
  const toScreen = (point: Point) => boardToScreen(view.camera, view.viewport, point);
  return labels.flatMap((label, index) => {
    const on = partOnBoard(placement, label.region);
    const [first] = on as [Point];
    // What was trimmed away is not labelled.
    const isKept =
      first.x >= kept.x - 1 &&
      first.y >= kept.y - 1 &&
      first.x <= kept.x + kept.width + 1 &&
      first.y <= kept.y + kept.height + 1;
    return isKept ? [{ key: `${placement.id} ${index}`, label, corners: on.map(toScreen) }] : [];
  });
}

/** Labels of pictures, where they belong: of those that are selected, or of all in view while that is asked for. */
export function LabelsOnPictures({ desk, view }: { desk: Desk; view: StageView }) {
  useStore(view.store);
  const areShown = useStore(desk.store, (state) => state.areLabelsShown);
  const { said } = useMade(desk.watch, () => {
    const labelled = (areShown ? view.feed.itemsWithin(view.view) : desk.selected)
      .filter(isPlacement)
      .filter((one) => isSeen(desk.session.items, one) && one.width * view.camera.scale >= LEAST_PX)
      .map((one) => [one.id, labelsOf(desk.sync.shelf.get(one.picture)?.picture?.purposes ?? [])] as const)
      .filter(([, labels]) => labels.length > 0)
      .slice(0, MOST_PICTURES);
    // In words: rendered anew only where another is said, whatever else altered.
    return { said: JSON.stringify(labelled) };
  });
  const labelled = JSON.parse(said) as (readonly [string, readonly Label[]])[];
  if (labelled.length === 0 || desk.session.previewed.length > 0) return null;
  const shown = labelled.flatMap(([id, labels]) => {
    const item = desk.session.items.get(id);
    return item && isPlacement(item) ? shownOn(view, item, labels) : [];
  });
  return (
    <div className="pointer-events-none absolute inset-0 overflow-clip" data-testid="labels-on-pictures">
      <svg className="absolute inset-0 h-full w-full" aria-hidden>
        {shown.map(({ key, label, corners }) => {
          const points = corners.map(({ x, y }) => `${x},${y}`).join(' ');
          const isPoint = label.region.width === 0;
          const dash = label.isNot ? { strokeDasharray: '5 4' } : {};
          return isPoint ? (
            <g key={key}>
              <circle
                cx={corners[0]!.x}
                cy={corners[0]!.y}
                r={5}
                fill="none"
                stroke="#141414"
                strokeWidth={3}
              />
              <circle cx={corners[0]!.x} cy={corners[0]!.y} r={5} fill="none" stroke="#fff" strokeWidth={1} />
            </g>
          ) : (
            <g key={key}>
              <polygon points={points} fill="none" stroke="#141414" strokeWidth={3} {...dash} />
              <polygon points={points} fill="none" stroke="#fff" strokeWidth={1} {...dash} />
            </g>
          );
        })}
      </svg>
      {shown.map(({ key, label, corners }) => {
        const { x, y } = boundsOfPoints(corners);
        const isPoint = label.region.width === 0;
        return (
          <span
            key={key}
            className="absolute top-0 left-0 max-w-52 truncate bg-[#fafaf9] px-1.5 font-serif text-[#1d1d1b] text-[13px] italic leading-5"
            style={{
              transform: isPoint
                ? `translate(${Math.round(x + 10)}px, ${Math.round(y - 10)}px)`
                : `translate(${Math.round(x)}px, ${Math.round(y - 21)}px)`,
            }}
          >
            {label.colour && (
              <span
                aria-hidden
                className="mr-1.5 inline-block size-3 align-[-1px]"
                style={{ background: label.colour }}
              />
            )}
            <bdi>{labelWords(label)}</bdi>
          </span>
        );
      })}
    </div>
  );
}

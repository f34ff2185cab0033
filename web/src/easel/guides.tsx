import { lengthAt, lengthWords, type RulerLine, rulerLines } from '@miradero/core/easel';
import { boardToScreen, type Point } from '@miradero/core/geometry';
import { MOST_GUIDES, type SheetItem } from '@miradero/core/items';
import { type KeyboardEvent, type PointerEvent, useState } from 'react';
import type { Desk } from '../desk/index.ts';
import type { StageView } from '../stage/index.ts';
import { useStore } from '../state/index.ts';

/** Thickness of a ruler, CSS pixels. */
const THICK = 20;
/** Numbers of a ruler are no nearer to each other than this, CSS pixels. */
const LEAST_PX = 56;
/** A guide is taken at its ruler within so much, CSS pixels. */
const GRIP_PX = 7;
const FOCUSED = 'outline-none focus-visible:stroke-[1.5px] focus-visible:stroke-verdigris';

type Axis = 'x' | 'y';

/** A guide under the hand: of an axis, which of them (a new one: after the last), and where, the sheet's pixels. */
interface Dragged {
  readonly axis: Axis;
  readonly index: number;
  readonly at: number;
  /** Let go here it is taken away. */
  readonly isAway: boolean;
}

const MANY = `A sheet has ${MOST_GUIDES} guides each way at most.`;

const withGuide = (
  guides: SheetItem['guides'],
  { axis, index, at, isAway }: Dragged,
): SheetItem['guides'] => {
  const lines = [...guides[axis]];
  if (isAway) lines.splice(index, 1);
  else lines[index] = at;
  return { ...guides, [axis]: lines };
};

/** A press of an arrow moves a guide by so many pixels of the sheet; with Shift by ten times as many. */
const STEP_PX = 1;
const FAR = 10;

/** Which way an arrow goes along an axis. */
const STEP_BY: Readonly<Record<string, { readonly axis: Axis; readonly by: 1 | -1 }>> = {
  ArrowLeft: { axis: 'x', by: -1 },
  ArrowRight: { axis: 'x', by: 1 },
  ArrowUp: { axis: 'y', by: -1 },
  ArrowDown: { axis: 'y', by: 1 },
};

/** Rulers along two edges, and the guides that were drawn from them. Guides are taken, moved and taken away at the rulers. */
export function Guides({ desk, sheet, view }: { desk: Desk; sheet: SheetItem; view: StageView }) {
  const { camera, viewport } = useStore(view.store);
  const [dragged, setDragged] = useState<Dragged>();
  const { unit, ppi } = sheet.setup;
  const guides = dragged ? withGuide(sheet.guides, dragged) : sheet.guides;
  const seen = view.view;
  const onScreen = (axis: Axis, at: number): number =>
    boardToScreen(camera, viewport, { x: at, y: at })[axis];
  const least = LEAST_PX / camera.scale;
  const lines = (axis: Axis): RulerLine[] => {
    const [from, length] = axis === 'x' ? [seen.x, seen.width] : [seen.y, seen.height];
    return rulerLines(from, from + length, { unit, ppi, least });
  };
  const words = (at: number) => `${lengthWords(lengthAt(at, unit, ppi), unit)} ${unit}`;

  /** Guides run along the other axis: from the ruler along the top come level ones. */
  const grip = (axis: Axis) => {
    // Those of an axis are seen at the ruler along which they are told.
    const told = axis;
    const drawn: Axis = axis === 'x' ? 'y' : 'x';
    const pointOf = (event: PointerEvent): Point => view.pointOf(event);
    const begin = (event: PointerEvent) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      event.preventDefault();
      const point = pointOf(event);
      const near = sheet.guides[told].findIndex(
        (at) => Math.abs(onScreen(told, at) - point[told]) <= GRIP_PX,
      );
      if (near >= 0) setDragged({ axis: told, index: near, at: sheet.guides[told][near]!, isAway: false });
      else if (sheet.guides[drawn].length >= MOST_GUIDES) desk.say(MANY);
      else
        setDragged({
          ...{ axis: drawn, index: sheet.guides[drawn].length, isAway: true },
          at: Math.round(view.toBoard(point)[drawn]),
        });
    };
    const move = (event: PointerEvent) => {
      if (!dragged) return;
      const point = pointOf(event);
      const isNew = dragged.axis === drawn;
      const across = isNew ? drawn : told;
      // A new one is there once it is off its ruler; one that is there goes where the hand leaves the view, or comes to the rulers' corner.
      const isAway = isNew
        ? point[drawn] < THICK
        : point[told] < THICK || point[told] > viewport[told === 'x' ? 'width' : 'height'];
      setDragged({ ...dragged, at: Math.round(view.toBoard(point)[across]), isAway });
    };
    const end = () => {
      if (!dragged) return;
      setDragged(undefined);
      const next = withGuide(sheet.guides, dragged);
      if (next[dragged.axis].join() !== sheet.guides[dragged.axis].join())
        desk.session.commit([{ item: sheet.id, set: { guides: next } }]);
    };
    return {
      onPointerDown: begin,
      onPointerMove: move,
      onPointerUp: end,
      onPointerCancel: () => setDragged(undefined),
    };
  };

  const keep = (next: SheetItem['guides']) =>
    desk.session.commit([{ item: sheet.id, set: { guides: next } }]);
  /** With the keyboard a ruler gives a guide in the middle of the view. */
  const onRuler = (axis: Axis) => ({
    tabIndex: 0,
    role: 'button',
    'aria-label': axis === 'x' ? 'Ruler: a new level guide' : 'Ruler: a new upright guide',
    onKeyDown(event: KeyboardEvent) {
      if (event.key !== 'Enter' && event.key !== ' ') return;
      event.preventDefault();
      event.stopPropagation();
      const drawn: Axis = axis === 'x' ? 'y' : 'x';
      if (sheet.guides[drawn].length >= MOST_GUIDES) desk.say(MANY);
      else
        keep({
          ...sheet.guides,
          [drawn]: [...sheet.guides[drawn], Math.round(view.toBoard({ x: width / 2, y: height / 2 })[drawn])],
        });
    },
  });
  const onGuide = (axis: Axis, index: number) => ({
    tabIndex: 0,
    role: 'slider',
    'aria-label': axis === 'x' ? 'Upright guide' : 'Level guide',
    'aria-orientation': axis === 'x' ? ('horizontal' as const) : ('vertical' as const),
    'aria-valuenow': Math.round(sheet.guides[axis][index] ?? 0),
    'aria-valuetext': words(sheet.guides[axis][index] ?? 0),
    onKeyDown(event: KeyboardEvent) {
      const { axis: along, by } = STEP_BY[event.key] ?? {};
      const isAway = event.key === 'Delete' || event.key === 'Backspace';
      if (!isAway && along !== axis) return;
      event.preventDefault();
      event.stopPropagation();
      const at = sheet.guides[axis][index]! + (by ?? 0) * STEP_PX * (event.shiftKey ? FAR : 1);
      keep(withGuide(sheet.guides, { axis, index, at, isAway }));
    },
  });

  const { width, height } = viewport;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing is no fieldset
    <svg
      role="group"
      aria-label={`Rulers in ${unit}; ${guides.x.length + guides.y.length} guides. Drag from a ruler for another.`}
      data-testid="rulers"
      className="pointer-events-none absolute inset-0 z-[5] size-full touch-none select-none"
    >
      {(['x', 'y'] as const).flatMap((axis) =>
        guides[axis].map((at, index) => {
          const p = onScreen(axis, at);
          const isHeld = dragged?.axis === axis && dragged.index === index;
          const ends =
            axis === 'x' ? { x1: p, x2: p, y1: THICK, y2: height } : { x1: THICK, x2: width, y1: p, y2: p };
          return (
            <g key={`${axis} ${at}`} data-guide={axis} data-at={at}>
              <line {...ends} className="stroke-paper" strokeWidth={3} opacity={0.6} />
              <line {...ends} className="stroke-ochre" strokeWidth={isHeld ? 1.5 : 1} />
              {isHeld && (
                <text
                  x={axis === 'x' ? p + 6 : THICK + 6}
                  y={axis === 'x' ? THICK + 16 : p - 6}
                  className="figures fill-ink stroke-paper text-[12px]"
                  style={{ paintOrder: 'stroke' }}
                  strokeWidth={4}
                >
                  {words(at)}
                </text>
              )}
            </g>
          );
        }),
      )}
      <g className="pointer-events-auto cursor-row-resize" data-ruler="x" {...grip('x')}>
        <rect
          {...onRuler('x')}
          x={0}
          y={0}
          width={width}
          height={THICK}
          className={`fill-paper ${FOCUSED}`}
        />
        <line x1={0} x2={width} y1={THICK - 0.5} y2={THICK - 0.5} className="stroke-line" />
        {lines('x').map(({ at, length }) => (
          <g key={length} transform={`translate(${onScreen('x', at)} 0)`}>
            <line y1={THICK - 7} y2={THICK} className="stroke-muted" />
            <text x={3} y={12} className="figures fill-muted text-[12px]">
              {lengthWords(length, unit)}
            </text>
          </g>
        ))}
        {guides.x.map((at, index) => (
          <path
            key={index}
            {...onGuide('x', index)}
            d={`M${onScreen('x', at)} ${THICK}l-5 -8h10z`}
            className={`fill-ochre ${FOCUSED}`}
          />
        ))}
      </g>
      <g className="pointer-events-auto cursor-col-resize" data-ruler="y" {...grip('y')}>
        <rect
          {...onRuler('y')}
          x={0}
          y={THICK}
          width={THICK}
          height={Math.max(0, height - THICK)}
          className={`fill-paper ${FOCUSED}`}
        />
        <line x1={THICK - 0.5} x2={THICK - 0.5} y1={THICK} y2={height} className="stroke-line" />
        {lines('y').map(({ at, length }) => (
          <g key={length} transform={`translate(0 ${onScreen('y', at)})`}>
            <line x1={THICK - 7} x2={THICK} className="stroke-muted" />
            <text transform="translate(12 -3) rotate(-90)" className="figures fill-muted text-[12px]">
              {lengthWords(length, unit)}
            </text>
          </g>
        ))}
        {guides.y.map((at, index) => (
          <path
            key={index}
            {...onGuide('y', index)}
            d={`M${THICK} ${onScreen('y', at)}l-8 -5v10z`}
            className={`fill-ochre ${FOCUSED}`}
          />
        ))}
      </g>
      <rect x={0} y={0} width={THICK} height={THICK} className="fill-paper" />
      <text x={3} y={14} className="fill-muted text-[12px]">
        {unit}
      </text>
    </svg>
  );
}

import { changeSheetPaper, scaleSheet } from '@miradero/core/board';
import {
  type Anchor,
  changePaper,
  faultOfSheet,
  pixelsOfSheet,
  pixelsWords,
  type ResizeUnit,
  resizedSide,
  scalePicture,
  setupOfPixels,
  setupWords,
  sheetWords,
  verdictWords,
  withAspect,
} from '@miradero/core/easel';
import { isPlacement, type SheetItem } from '@miradero/core/items';
import { type FormEvent, useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { Choices, Sheet, SheetFooter } from '../shell/index.ts';
import { ForPrint } from './for-print.tsx';
import { LengthField } from './length-field.tsx';
import { isDrawnHere } from './painting/versions/open-painting.ts';

const WAYS = { scale: 'scale the picture', paper: 'change the paper', print: 'its print' } as const;
const UNITS: Readonly<Record<ResizeUnit, string>> = { px: 'px', cm: 'cm', percent: '%' };
const STEPS = [0, 0.5, 1] as const;
const ROWS = ['top', 'middle', 'bottom'] as const;
const COLUMNS = ['left', 'centre', 'right'] as const;
const CM_PER_INCH = 2.54;
/** Longest side of the preview, px. */
const SIDE = 150;

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Pixels told in a unit. */
const told = (pixels: number, was: number, unit: ResizeUnit, ppi: number): number =>
  unit === 'px' ? pixels : unit === 'percent' ? (100 * pixels) / was : (pixels / ppi) * CM_PER_INCH;

const percent = (share: number): string =>
  `${(100 * share).toLocaleString('en', { maximumFractionDigits: share < 0.1 ? 1 : 0 })} %`;

/** What is lost, or not won, by scaling. @param hasDrawing - it keeps the pixels that it was drawn with */
function scaleWords(was: Size, next: Size, hasDrawing: boolean): readonly string[] {
  const { x, y, pixels, squeeze } = scalePicture(was, next);
  if (x === 1 && y === 1) return ['Nothing alters.'];
  const squeezed =
    Math.abs(squeeze - 1) > 1e-3
      ? [
          `Its proportions alter: ${squeeze > 1 ? 'wider' : 'narrower'} by ${percent(Math.abs(squeeze - 1))}. Pictures on it keep theirs.`,
        ]
      : [];
  const kept = hasDrawing ? ['What was drawn on it here keeps its own pixels.'] : [];
  return pixels < 1
    ? [`${percent(1 - pixels)} of its pixels are lost, and detail with them.`, ...kept, ...squeezed]
    : [`It has ${pixels.toFixed(2)} times as many pixels; no detail is won by it.`, ...kept, ...squeezed];
}

/** What is cut off, and what is bare, on other paper. */
function paperWords(was: Size, next: Size, anchor: Anchor): readonly string[] {
  const { cut, lost, bare } = changePaper(was, next, anchor);
  const sides = (['left', 'top', 'right', 'bottom'] as const)
    .filter((side) => cut[side] > 0)
    .map((side) => `${cut[side].toLocaleString('en')} px ${side}`);
  return [
    lost > 0
      ? `Off the paper: ${sides.join(', ')}; ${percent(lost)} of it. What lies there stays on the desk.`
      : 'Nothing is lost.',
    ...(bare > 0 ? [`${percent(bare)} of the new paper is bare.`] : []),
  ];
}

/** The paper now and then: what is lost is marked. */
function Preview({ was, next, anchor }: { was: Size; next: Size; anchor: Anchor | undefined }) {
  const offset = anchor ? changePaper(was, next, anchor).offset : { x: 0, y: 0 };
  const old = anchor ? { ...was, ...offset } : { ...was, x: 0, y: 0 };
  const left = Math.min(0, old.x);
  const top = Math.min(0, old.y);
  const width = Math.max(next.width, old.x + old.width) - left;
  const height = Math.max(next.height, old.y + old.height) - top;
  const scale = SIDE / Math.max(width, height);
  const place = (x: number, y: number, size: Size) => ({
    x: (x - left) * scale + 1,
    y: (y - top) * scale + 1,
    width: size.width * scale,
    height: size.height * scale,
  });
  return (
    <svg aria-hidden width={width * scale + 2} height={height * scale + 2} className="shrink-0">
      <rect
        {...place(old.x, old.y, old)}
        className={anchor ? 'fill-vermilion/30' : 'fill-raised stroke-line'}
      />
      <rect {...place(0, 0, next)} className="fill-raised stroke-ink" fillOpacity={anchor ? 0.9 : 0.4} />
      {anchor && (
        <rect {...place(old.x, old.y, old)} className="fill-none stroke-muted" strokeDasharray="3 3" />
      )}
    </svg>
  );
}

function Anchors({ value, onChange }: { value: Anchor; onChange: (anchor: Anchor) => void }) {
  return (
    <fieldset className="grid grid-cols-3 gap-0.5">
      <legend className="mb-1 text-[13px] text-muted">the picture stays</legend>
      {STEPS.flatMap((y, row) =>
        STEPS.map((x, column) => (
          <label key={`${x} ${y}`} className="relative">
            <input
              type="radio"
              name="anchor"
              className="peer absolute inset-0 size-full opacity-0"
              aria-label={`${ROWS[row]} ${COLUMNS[column]}`}
              checked={value.x === x && value.y === y}
              onChange={() => onChange({ x, y })}
            />
            <span className="block size-6 border border-line bg-paper peer-checked:border-ink peer-checked:bg-ink peer-focus-visible:outline-2 peer-focus-visible:outline-verdigris" />
          </label>
        )),
      )}
    </fieldset>
  );
}

/** Scaling the picture, and changing the paper: two actions, each with what is lost before it is done; and how it is printed. */
export function SizeSheet({ desk, sheet, onClose }: { desk: Desk; sheet: SheetItem; onClose: () => void }) {
  const { setup, need } = sheet;
  const was = pixelsOfSheet(setup).trimmed;
  const [way, setWay] = useState<keyof typeof WAYS>('scale');
  const [unit, setUnit] = useState<ResizeUnit>('px');
  const [next, setNext] = useState<Size>(was);
  const [isKept, setKept] = useState(true);
  const [anchor, setAnchor] = useState<Anchor>({ x: 0.5, y: 0.5 });
  const then = setupOfPixels(setup, next);
  const fault = faultOfSheet(then);
  const say = (side: 'width' | 'height', value: number) => {
    const pixels = resizedSide(value, unit, was[side], setup.ppi);
    setNext(isKept ? withAspect(was, side, pixels) : { ...next, [side]: pixels });
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (fault) return;
    const { items } = desk.session;
    if (next.width !== was.width || next.height !== was.height)
      desk.session.commit(
        way === 'scale'
          ? scaleSheet(items.values(), sheet, next)
          : changeSheetPaper(items.values(), sheet, next, anchor),
      );
    desk.view?.fitAgain();
    onClose();
  };
  const hasDrawing = desk.session.standing.some((item) => isPlacement(item) && isDrawnHere(desk, item));
  const words = way === 'scale' ? scaleWords(was, next, hasDrawing) : paperWords(was, next, anchor);
  return (
    <Sheet
      title="Size of the sheet"
      about={`Now ${sheetWords(setup)}.`}
      onClose={onClose}
      className="w-[min(540px,94vw)] px-5 py-4"
    >
      <Choices label="What is done" words={WAYS} value={way} onChange={setWay} className="mt-2" />
      {way === 'print' ? (
        <ForPrint desk={desk} sheet={sheet} onClose={onClose} />
      ) : (
        <form onSubmit={submit}>
          <div className="mt-3 flex flex-wrap items-baseline gap-x-3 gap-y-2">
            {(['width', 'height'] as const).map((side) => (
              <LengthField
                key={side}
                label={side === 'width' ? 'New width' : 'New height'}
                value={told(next[side], was[side], unit, setup.ppi)}
                onChange={(value) => say(side, value)}
              />
            ))}
            <Choices label="Unit of the new sides" words={UNITS} value={unit} onChange={setUnit} />
          </div>
          <label className="mt-2 flex items-center gap-2 text-[13px]">
            <input type="checkbox" checked={isKept} onChange={({ target }) => setKept(target.checked)} />
            its proportions stay
          </label>
          <div className="mt-4 flex flex-wrap items-start gap-5 border-line border-t pt-3">
            {!fault && <Preview was={was} next={next} anchor={way === 'paper' ? anchor : undefined} />}
            {way === 'paper' && <Anchors value={anchor} onChange={setAnchor} />}
            <div role="status" className="min-w-0 flex-1 basis-52 text-[13px] leading-snug">
              {fault ? (
                <p className="text-vermilion">{fault}</p>
              ) : (
                <>
                  <p className="figures">{pixelsWords(next)}</p>
                  <p className="figures text-muted">{setupWords(then)}</p>
                  {words.map((line) => (
                    <p key={line} className="mt-1">
                      {line}
                    </p>
                  ))}
                  <p className="mt-1 text-muted">{verdictWords(then, need)}</p>
                </>
              )}
            </div>
          </div>
          <SheetFooter word={way === 'scale' ? 'Scale it' : 'Change the paper'} />
        </form>
      )}
    </Sheet>
  );
}

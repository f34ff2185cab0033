import type { Point, Quad } from '@miradero/core/geometry';
import { type Remote, wrap } from 'comlink';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { NumberField } from '../../shell/index.ts';
import type { BroughtFile } from '../reading/brought.ts';
import type { PaperWork } from './paper.worker.ts';
import { StepFooter } from './step-footer.tsx';

/** Sheets as they are sold, mm, upright. Source: ISO 216:2007, table 1. */
const SHEETS: Readonly<Record<string, { width: number; height: number }>> = {
  A6: { width: 105, height: 148 },
  A5: { width: 148, height: 210 },
  A4: { width: 210, height: 297 },
  A3: { width: 297, height: 420 },
};

/** Where no sheet was found: a frame well inside the photograph, to be set by hand. */
const inset = ({ width, height }: { width: number; height: number }): Quad => [
  { x: width * 0.15, y: height * 0.15 },
  { x: width * 0.85, y: height * 0.15 },
  { x: width * 0.85, y: height * 0.85 },
  { x: width * 0.15, y: height * 0.85 },
];

/** Whether the sheet lies across: its upper and lower sides are longer than the others. */
function liesAcross([a, b, c, d]: Quad): boolean {
  const length = (p: Point, q: Point) => Math.hypot(q.x - p.x, q.y - p.y);
  return length(a, b) + length(d, c) > length(b, c) + length(a, d);
}

function usePaperWork(): () => Remote<PaperWork> {
  const worker = useRef<Worker | undefined>(undefined);
  const remote = useRef<Remote<PaperWork> | undefined>(undefined);
  useEffect(() => () => worker.current?.terminate(), []);
  return () => {
    worker.current ??= new Worker(new URL('./paper.worker.ts', import.meta.url), { type: 'module' });
    remote.current ??= wrap<PaperWork>(worker.current);
    return remote.current;
  };
}

/** The corners of a sheet, found and set right by hand; its size; and the squared sheet as it comes in. */
export function PaperStep({
  photo,
  onBack,
  onTake,
}: {
  photo: HTMLCanvasElement;
  onBack: () => void;
  onTake: (one: BroughtFile) => void;
}) {
  const paper = usePaperWork();
  const holder = useRef<HTMLDivElement>(null);
  const [corners, setCorners] = useState<Quad>();
  const [isFound, setFound] = useState(true);
  const [size, setSize] = useState(SHEETS.A4!);
  const [isWhite, setWhite] = useState(true);
  const [isBusy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState('');

  useEffect(() => {
    photo.className = 'block max-h-[56vh] max-w-full';
    holder.current?.prepend(photo);
    let isHere = true;
    void (async () => {
      // Without an answer the corners are set by hand.
      const found = await createImageBitmap(photo)
        .then((bitmap) => paper().find(bitmap))
        .catch(() => undefined);
      if (!isHere) return;
      setFound(found !== undefined);
      setCorners(found ?? inset(photo));
    })();
    return () => {
      isHere = false;
    };
  }, [photo]);

  const isAcross = corners !== undefined && liesAcross(corners);
  const sheet = isAcross ? { width: size.height, height: size.width } : size;
  const drag = (index: number) => (event: PointerEvent<HTMLButtonElement>) => {
    if (!corners || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const box = photo.getBoundingClientRect();
    const scale = photo.width / box.width;
    const within = (value: number, most: number) => Math.min(most, Math.max(0, value * scale));
    const at = {
      x: within(event.clientX - box.left, photo.width),
      y: within(event.clientY - box.top, photo.height),
    };
    setCorners(corners.map((corner, place) => (place === index ? at : corner)) as unknown as Quad);
  };
  const nudge = (index: number) => (event: React.KeyboardEvent) => {
    const [x, y] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[
      event.key
    ] ?? [0, 0];
    if (!corners || (x === 0 && y === 0)) return;
    event.preventDefault();
    const moved = (corner: Point) => ({ x: corner.x + x! * 2, y: corner.y + y! * 2 });
    setCorners(corners.map((corner, place) => (place === index ? moved(corner) : corner)) as unknown as Quad);
  };
  const take = async () => {
    if (!corners) return;
    setBusy(true);
    setTrouble('');
    let blob: Blob;
    try {
      blob = await paper().square(
        await createImageBitmap(photo),
        corners,
        sheet.width / sheet.height,
        isWhite,
      );
    } catch (error) {
      setTrouble(`The sheet could not be squared: ${error instanceof Error ? error.message : error}`);
      setBusy(false);
      return;
    }
    onTake({
      kind: 'file',
      file: new File([blob], 'sketch.png', { type: 'image/png' }),
      name: 'Sketch on paper',
      paperMm: sheet,
    });
  };
  const outline = corners?.map(({ x, y }) => `${x},${y}`).join(' ');
  return (
    <>
      <p className="mb-2 text-[13px] text-muted">
        {corners === undefined
          ? 'Looking for the sheet …'
          : isFound
            ? 'The corners were found; drag one where it is wrong.'
            : 'No sheet was found by itself: drag the corners to where they are.'}
      </p>
      {trouble !== '' && (
        <p role="alert" className="mb-2 text-[13px] text-vermilion">
          {trouble}
        </p>
      )}
      <div ref={holder} data-testid="paper" className="relative mx-auto w-fit touch-none">
        {corners && (
          <>
            <svg
              aria-hidden="true"
              className="pointer-events-none absolute inset-0 size-full"
              viewBox={`0 0 ${photo.width} ${photo.height}`}
            >
              <polygon points={outline} className="paper-edge" />
            </svg>
            {corners.map(({ x, y }, index) => (
              <button
                key={index}
                type="button"
                aria-label={`Corner ${index + 1} of the sheet`}
                className="paper-corner absolute"
                style={{ left: `${(x / photo.width) * 100}%`, top: `${(y / photo.height) * 100}%` }}
                onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
                onPointerMove={drag(index)}
                onKeyDown={nudge(index)}
              />
            ))}
          </>
        )}
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2 text-[13px]">
        <span className="flex items-center gap-2">
          <span className="text-muted">Sheet</span>
          {Object.entries(SHEETS).map(([name, one]) => (
            <button
              key={name}
              type="button"
              aria-pressed={one.width === size.width && one.height === size.height}
              className="choice px-1 py-0.5"
              onClick={() => setSize(one)}
            >
              {name}
            </button>
          ))}
        </span>
        <span className="figures">
          <NumberField
            label="Width of the sheet in mm"
            value={sheet.width}
            onChange={(to) =>
              to > 0 && setSize(isAcross ? { width: size.width, height: to } : { ...size, width: to })
            }
          />{' '}
          ×{' '}
          <NumberField
            label="Height of the sheet in mm"
            value={sheet.height}
            onChange={(to) =>
              to > 0 && setSize(isAcross ? { width: to, height: size.height } : { ...size, height: to })
            }
          />{' '}
          mm
        </span>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={isWhite} onChange={(event) => setWhite(event.target.checked)} />
          whiten the paper
        </label>
      </div>
      <StepFooter
        words={isBusy ? 'Squaring …' : 'Take the sheet'}
        isReady={corners !== undefined && !isBusy}
        onBack={onBack}
        onTake={take}
      />
    </>
  );
}

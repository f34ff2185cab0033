import type { Point, Rectangle } from '@miradero/core/geometry';
import { isPlacement } from '@miradero/core/items';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import type { Desk } from '../../desk/index.ts';
import { keepFile, shapeOrWhy, whyNot } from '../../gather/index.ts';
import { pngOf, Sheet } from '../../shell/index.ts';
import { ask } from '../../sync/index.ts';
import { showVersion } from '../following/followed-drawings.ts';
import { Capture, pixelsOf } from './capture.ts';
import { openStandIn, type StandInWindow } from './stand-in-window.ts';
import { aspectOf, layOver } from './tracing.ts';
import { TrackerLink } from './tracker-link.ts';

declare global {
  interface Window {
    /** The window that stands in for one of another program, for those who scroll it. */
    miraderoStandIn?: StandInWindow | undefined;
  }
}

const REFUSED = 'No window was chosen, or this browser does not hand one out.';
const CAPTURED = 'Captured window';
const WORD = 'underline underline-offset-3';
const BUTTON = 'border border-ink bg-ink px-3 py-1.5 text-paper disabled:opacity-40';

interface Frozen {
  readonly capture: Capture;
  readonly canvas: HTMLCanvasElement;
}

/** The drawing that stands on a sheet, for a window that stands in for the one in which it is drawn; undefined where none does. */
async function drawingOf(desk: Desk): Promise<HTMLImageElement | undefined> {
  const drawn = desk.session.standing.filter(isPlacement).find(({ drawing }) => drawing);
  const level = drawn && desk.sync.shelf.get(drawn.picture)?.picture?.levels.at(-1);
  if (!level) return undefined;
  const image = new Image();
  image.src = `/api/levels/${level.hash}`;
  return image.decode().then(
    () => image,
    () => undefined,
  );
}

/** The window in which somebody draws: chosen, its sheet found or marked by two corners, and laid under tracing paper. */
export function TraceSheet({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const [frozen, setFrozen] = useState<Frozen>();
  const [rectangle, setRectangle] = useState<Rectangle>();
  const [isFound, setFound] = useState<boolean>();
  const [first, setFirst] = useState<Point>();
  const [trouble, setTrouble] = useState('');
  /** What was handed on is not stopped when this is left. */
  const isKept = useRef(false);
  const capture = useRef<Capture>(undefined);
  const holder = useRef<HTMLDivElement>(null);
  const aspect = aspectOf(desk);

  useEffect(
    () => () => {
      if (!isKept.current) capture.current?.stop();
    },
    [],
  );
  useEffect(() => {
    if (!frozen || !holder.current) return;
    frozen.canvas.className = 'block max-h-[56vh] max-w-full';
    holder.current.prepend(frozen.canvas);
    return () => frozen.canvas.remove();
  }, [frozen]);

  const begin = async (stream: MediaStream) => {
    setTrouble('');
    try {
      const own = new Capture(stream);
      capture.current?.stop();
      capture.current = own;
      await new Promise<void>((resolve) => own.listen({ onFrame: () => resolve(), onEnd: resolve }));
      own.listen(undefined);
      if (!own.last) throw new Error('It was shared no more before it showed anything.');
      const pixels = pixelsOf(own.last);
      const canvas = document.createElement('canvas');
      canvas.width = pixels.width;
      canvas.height = pixels.height;
      canvas.getContext('2d')!.putImageData(pixels, 0, 0);
      setFrozen({ capture: own, canvas });
      setRectangle(undefined);
      const link = new TrackerLink();
      const found = await link.ask({ kind: 'find', pixels, aspect });
      link.close();
      setFound(found !== undefined);
      setRectangle(found);
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };
  const choose = () => {
    const wish = { video: { frameRate: 30 }, audio: false };
    (navigator.mediaDevices?.getDisplayMedia(wish) ?? Promise.reject()).then(begin, () =>
      setTrouble(REFUSED),
    );
  };
  const standIn = async () => {
    const own = openStandIn(aspect, await drawingOf(desk));
    window.miraderoStandIn = own;
    void begin(own.stream);
  };

  const pointAt = (event: PointerEvent): Point => {
    const box = frozen!.canvas.getBoundingClientRect();
    const scale = frozen!.canvas.width / box.width;
    return { x: (event.clientX - box.left) * scale, y: (event.clientY - box.top) * scale };
  };
  /** The first press marks one corner, the second the one across: the proportions are the sheet's. */
  const mark = (event: PointerEvent) => {
    const point = pointAt(event);
    if (!first) {
      setFirst(point);
      setRectangle(undefined);
      return;
    }
    const width = Math.abs(point.x - first.x);
    setFirst(undefined);
    if (width < 8) return;
    setRectangle({
      ...{ x: Math.min(first.x, point.x), y: Math.min(first.y, point.y) },
      ...{ width, height: width / aspect },
    });
  };
  const lay = async () => {
    if (!frozen || !rectangle) return;
    try {
      isKept.current = true;
      await layOver(desk, frozen.capture, rectangle);
      onClose();
    } catch (error) {
      isKept.current = false;
      setTrouble((error as Error).message);
    }
  };
  const keepVersion = async () => {
    if (!frozen || !rectangle) return;
    const board = desk.session.id;
    try {
      const { drawings } = await ask('GET /api/boards/:id/drawings', { parameters: { id: board } });
      const id = drawings.find(({ name }) => name === CAPTURED)?.id ?? crypto.randomUUID();
      const [x, y] = [Math.round(rectangle.x), Math.round(rectangle.y)];
      const part = { x, y, width: Math.round(rectangle.width), height: Math.round(rectangle.height) };
      const file = await pngOf(frozen.canvas, part, `${CAPTURED}.png`);
      const shape = await shapeOrWhy(file);
      if (typeof shape === 'string') throw new Error(shape);
      const drawing = { id, name: CAPTURED, board, savedAt: new Date().toISOString() };
      const kept = await keepFile(desk.sync, file, shape, CAPTURED, { drawing });
      showVersion(desk, id, { id: kept.picture, ...shape });
      desk.say('What the window shows was kept as a version.');
      onClose();
    } catch (error) {
      setTrouble(error instanceof DOMException ? whyNot(error) : (error as Error).message);
    }
  };

  const percent = (value: number, of: number) => `${(100 * value) / of}%`;
  const { canvas } = frozen ?? {};
  return (
    <Sheet
      title="Tracing paper"
      about={
        frozen
          ? first
            ? 'Now press the corner across.'
            : isFound === undefined
              ? 'The sheet is looked for.'
              : isFound
                ? 'The sheet was found. If it lies elsewhere, press two corners of it.'
                : 'The sheet was not found: press its upper left corner, then its lower right.'
          : 'What stands on this sheet is laid over the window in which you draw, at its place and size.'
      }
      onClose={onClose}
      className="w-auto min-w-[min(420px,94vw)] max-w-[94vw] px-5 py-4"
    >
      {!frozen && (
        <p className="mt-4 flex flex-wrap items-center gap-x-4 gap-y-2">
          <button type="button" className={BUTTON} onClick={choose}>
            Choose the window
          </button>
          <button type="button" className={`${WORD} text-muted`} onClick={() => void standIn()}>
            try it with a stand-in
          </button>
        </p>
      )}
      {frozen && canvas && (
        <>
          <div
            ref={holder}
            data-testid="captured"
            className="relative mt-3 w-fit cursor-crosshair touch-none select-none bg-[#797979]"
            onPointerDown={mark}
          >
            {rectangle && (
              <div
                data-testid="found-sheet"
                className="pointer-events-none absolute border-2 border-verdigris"
                style={{
                  left: percent(rectangle.x, canvas.width),
                  top: percent(rectangle.y, canvas.height),
                  width: percent(rectangle.width, canvas.width),
                  height: percent(rectangle.height, canvas.height),
                }}
              />
            )}
          </div>
          <p className="mt-3 flex flex-wrap items-center justify-end gap-x-4 gap-y-2">
            <button type="button" className={WORD} onClick={choose}>
              another window
            </button>
            <button type="button" className={WORD} disabled={!rectangle} onClick={() => void keepVersion()}>
              keep it as a version
            </button>
            <button type="button" className={BUTTON} disabled={!rectangle} onClick={() => void lay()}>
              Lay it over
            </button>
          </p>
        </>
      )}
      {trouble && (
        <p role="alert" className="mt-2 text-vermilion">
          {trouble}
        </p>
      )}
    </Sheet>
  );
}

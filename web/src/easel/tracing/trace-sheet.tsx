import { markedSheet, type Size, type Straightened, straightened } from '@miradero/core/easel';
import type { Affine, Point } from '@miradero/core/geometry';
import { isPlacement } from '@miradero/core/items';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import type { Desk } from '../../desk/index.ts';
import { keepFile, shapeOrWhy, whyNot } from '../../gather/index.ts';
import { pngOf, Sheet } from '../../shell/index.ts';
import { drawingNamed } from '../following/drawing-named.ts';
import { showVersion } from '../following/followed-drawings.ts';
import { Capture, pixelsOf } from './capture.ts';
import { openStandIn, type StandInWindow } from './stand-in-window.ts';
import { aspectOf, layOver, sizeOf } from './tracing.ts';
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

/** Where a sheet lies on what was captured, whichever way it is turned. */
function Outline({
  placed: [a, b, c, d, e, f],
  sheet,
  canvas,
}: {
  placed: Affine;
  sheet: Size;
  canvas: Size;
}) {
  const percent = (value: number, of: number) => `${(100 * value) / of}%`;
  const [across, down] = [Math.hypot(a, b), Math.hypot(c, d)];
  return (
    <div
      data-testid="found-sheet"
      className="pointer-events-none absolute origin-top-left border-2 border-verdigris"
      style={{
        left: percent(e, canvas.width),
        top: percent(f, canvas.height),
        width: percent(sheet.width * across, canvas.width),
        height: percent(sheet.height * down, canvas.height),
        transform: `matrix(${a / across}, ${b / across}, ${c / down}, ${d / down}, 0, 0)`,
      }}
    />
  );
}

/** What was captured, turned so that the sheet lies upright. */
function turned(from: HTMLCanvasElement, { toUpright, size }: Pick<Straightened, 'toUpright' | 'size'>) {
  const canvas = document.createElement('canvas');
  canvas.width = size.width;
  canvas.height = size.height;
  const context = canvas.getContext('2d')!;
  context.setTransform(...toUpright);
  context.drawImage(from, 0, 0);
  return canvas;
}

/** The window in which somebody draws: chosen, its sheet found or marked by two corners, and laid under tracing paper. */
export function TraceSheet({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const [frozen, setFrozen] = useState<Frozen>();
  /** Pixels of the sheet → pixels of the capture. */
  const [placed, setPlaced] = useState<Affine>();
  const [isFound, setFound] = useState<boolean>();
  const [marks, setMarks] = useState<readonly Point[]>([]);
  const [isThird, setThird] = useState(false);
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
      setPlaced(undefined);
      setMarks([]);
      const link = new TrackerLink();
      const found = await link.ask({ kind: 'find', pixels, aspect });
      link.close();
      setFound(found !== undefined);
      const { width, height } = sizeOf(desk);
      setPlaced(found && [found.width / width, 0, 0, found.height / height, found.x, found.y]);
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
  /** Two presses mark two corners that lie across; another, where it is asked for, the third. */
  const mark = (event: PointerEvent) => {
    const point = pointAt(event);
    const next = isThird ? [...marks.slice(0, 2), point] : marks.length === 1 ? [...marks, point] : [point];
    const now = markedSheet(sizeOf(desk), next);
    setThird(false);
    setMarks(now || next.length === 1 ? next : []);
    setPlaced(now);
  };
  const lay = async () => {
    if (!frozen || !placed) return;
    try {
      isKept.current = true;
      await layOver(desk, frozen.capture, straightened(frozen.canvas, sizeOf(desk), placed));
      onClose();
    } catch (error) {
      isKept.current = false;
      setTrouble((error as Error).message);
    }
  };
  const keepVersion = async () => {
    if (!frozen || !placed) return;
    const board = desk.session.id;
    try {
      const id = await drawingNamed(board, CAPTURED);
      const { rectangle, ...upright } = straightened(frozen.canvas, sizeOf(desk), placed);
      const [x, y] = [Math.round(rectangle.x), Math.round(rectangle.y)];
      const part = { x, y, width: Math.round(rectangle.width), height: Math.round(rectangle.height) };
      const file = await pngOf(turned(frozen.canvas, upright), part, `${CAPTURED}.png`);
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

  const { canvas } = frozen ?? {};
  return (
    <Sheet
      title="Tracing paper"
      about={
        frozen
          ? isThird
            ? 'Now press its upper right corner.'
            : marks.length === 1
              ? 'Now press the corner across.'
              : isFound === undefined
                ? 'The sheet is looked for.'
                : isFound
                  ? 'The sheet was found. If it lies elsewhere, press its upper left corner, then its lower right.'
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
            {placed && <Outline placed={placed} sheet={sizeOf(desk)} canvas={canvas} />}
          </div>
          <p className="mt-3 flex flex-wrap items-center justify-end gap-x-4 gap-y-2">
            <button type="button" className={WORD} onClick={choose}>
              another window
            </button>
            {marks.length > 1 && (
              <button
                type="button"
                className={WORD}
                title="Where its canvas is mirrored or stretched there"
                onClick={() => setThird(true)}
              >
                a third corner
              </button>
            )}
            <button type="button" className={WORD} disabled={!placed} onClick={() => void keepVersion()}>
              keep it as a version
            </button>
            <button type="button" className={BUTTON} disabled={!placed} onClick={() => void lay()}>
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

import type { Rectangle } from '@miradero/core/geometry';

const SIZE = { width: 960, height: 640 } as const;
const DESK: Rectangle = { x: 72, y: 40, width: 720, height: 572 };
const MARGIN = 36;

/** A window of no program at all: bars around a desk, a sheet on it, something drawn on that. It says that it is one. */
export interface StandInWindow {
  readonly stream: MediaStream;
  /** Where its sheet lies, pixels of the window; parts of it may lie beyond the desk. */
  readonly sheet: Rectangle;
  /** Scrolls its canvas, pixels. */
  scroll(dx: number, dy: number): void;
  /** It is closed. */
  close(): void;
  /** Draws another stroke; its colour tells which. */
  draw(colour: string): void;
}

/** Strokes of the sheet, `[x, y, width, height]` in fractions of it, and their ink. */
function strokes(): readonly (readonly [number, number, number, number, string])[] {
  let state = 11;
  const random = () => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return state / 2_147_483_648;
  };
  return Array.from({ length: 60 }, () => {
    const [width, height] = [0.02 + random() * 0.12, 0.02 + random() * 0.12];
    const ink = `rgb(${[0, 0, 0].map(() => Math.floor(random() * 190)).join(' ')})`;
    return [random() * (1 - width), random() * (1 - height), width, height, ink] as const;
  });
}

/**
 * @param aspect - of its sheet, width by height
 * @param drawing - what is drawn there; strokes of its own where there is none
 */
export function openStandIn(aspect: number, drawing?: CanvasImageSource): StandInWindow {
  const canvas = document.createElement('canvas');
  canvas.width = SIZE.width;
  canvas.height = SIZE.height;
  const context = canvas.getContext('2d')!;
  const room = { width: DESK.width - 2 * MARGIN, height: DESK.height - 2 * MARGIN };
  const width = Math.round(Math.min(room.width, room.height * aspect));
  const height = Math.round(width / aspect);
  const drawn = drawing ? [] : [...strokes()];
  let sheet: Rectangle = {
    x: Math.round(DESK.x + (DESK.width - width) / 2),
    y: Math.round(DESK.y + (DESK.height - height) / 2),
    ...{ width, height },
  };
  const fill = ({ x, y, width, height }: Rectangle, colour: string) => {
    context.fillStyle = colour;
    context.fillRect(x, y, width, height);
  };
  const paint = () => {
    fill({ x: 0, y: 0, ...SIZE }, '#34363a');
    for (let row = 0; row < 16; row += 1)
      fill({ x: 16, y: 52 + 34 * row, width: 40, height: 24 }, `rgb(${70 + 9 * row} 80 90)`);
    for (let row = 0; row < 20; row += 1)
      fill({ x: 808, y: 52 + 28 * row, width: 136, height: 20 }, `rgb(80 ${84 + 5 * row} 92)`);
    context.fillStyle = '#d8d8d4';
    context.font = '15px sans-serif';
    context.fillText('A stand-in for the window of another program', 72, 26);
    context.save();
    context.beginPath();
    context.rect(DESK.x, DESK.y, DESK.width, DESK.height);
    context.clip();
    fill(DESK, '#808080');
    fill(sheet, '#faf9f5');
    if (drawing) context.drawImage(drawing, sheet.x, sheet.y, sheet.width, sheet.height);
    for (const [x, y, w, h, ink] of drawn)
      fill(
        {
          x: sheet.x + Math.round(x * sheet.width),
          y: sheet.y + Math.round(y * sheet.height),
          width: Math.round(w * sheet.width),
          height: Math.round(h * sheet.height),
        },
        ink,
      );
    context.restore();
  };
  paint();
  const stream = canvas.captureStream(30);
  return {
    stream,
    close() {
      for (const track of stream.getTracks()) track.stop();
    },
    get sheet() {
      return sheet;
    },
    scroll(dx, dy) {
      sheet = { ...sheet, x: sheet.x + dx, y: sheet.y + dy };
      paint();
    },
    draw(colour) {
      drawn.push([0.4, 0.4, 0.2, 0.2, colour]);
      paint();
    },
  };
}

import type { Flat, LineDrawing, Pen } from './lines.ts';

/** A drawing sheet as SVG, lengths of the sheet in pixels. */
export interface Ink {
  readonly paper: string;
  readonly line: string;
  /** Pixels of the finest pen. */
  readonly penPx: number;
}

const PENS: Readonly<Record<Pen, number>> = { heavy: 3, medium: 1.8, fine: 1, hidden: 1, axis: 0.8 };
const FONT = "font-family='DejaVu Sans Condensed, DejaVu Sans, sans-serif'";

export class Sheet {
  readonly #parts: string[] = [];
  readonly width: number;
  readonly height: number;
  readonly ink: Ink;

  constructor(width: number, height: number, ink: Ink) {
    this.width = width;
    this.height = height;
    this.ink = ink;
  }

  /** Draws `drawing` with its origin at (`x`, `y`), `scale` pixels a metre. */
  view(drawing: LineDrawing, x: number, y: number, scale: number): void {
    const { paper, line, penPx } = this.ink;
    const place = ([px, py]: Flat) => `${(x + px * scale).toFixed(2)},${(y - py * scale).toFixed(2)}`;
    for (const { pen, points, isClosed, isOpaque } of drawing.strokes) {
      const dash =
        pen === 'axis' ? ` stroke-dasharray='${penPx * 26} ${penPx * 6} ${penPx * 4} ${penPx * 6}'` : '';
      this.#parts.push(
        `<path d='M${points.map(place).join('L')}${isClosed ? 'Z' : ''}' fill='${isOpaque ? paper : 'none'}' stroke='${line}' stroke-width='${PENS[pen] * penPx}' stroke-linejoin='round'${dash}/>`,
      );
    }
  }

  text(
    x: number,
    y: number,
    size: number,
    words: string,
    anchor: 'start' | 'middle' | 'end' = 'start',
    turnDeg = 0,
  ): void {
    const safe = words.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
    const turn = turnDeg === 0 ? '' : ` transform='rotate(${turnDeg} ${x} ${y})'`;
    this.#parts.push(
      `<text x='${x}' y='${y}' font-size='${size}' text-anchor='${anchor}' fill='${this.ink.line}' ${FONT}${turn}>${safe}</text>`,
    );
  }

  line(ax: number, ay: number, bx: number, by: number, width = 1): void {
    const { line, penPx } = this.ink;
    this.#parts.push(`<path d='M${ax},${ay}L${bx},${by}' stroke='${line}' stroke-width='${width * penPx}'/>`);
  }

  frame(x: number, y: number, width: number, height: number, weight = 2): void {
    const { line, penPx } = this.ink;
    this.#parts.push(
      `<rect x='${x}' y='${y}' width='${width}' height='${height}' fill='none' stroke='${line}' stroke-width='${weight * penPx}'/>`,
    );
  }

  /** A level dimension line with ticks and its length; what it measures lies at height `fromY`. */
  level(ax: number, bx: number, y: number, fromY: number, words: string, size: number): void {
    const tick = size * 0.35;
    for (const x of [ax, bx]) {
      this.line(x, fromY, x, y + Math.sign(y - fromY) * tick, 0.8);
      this.line(x - tick, y + tick, x + tick, y - tick, 1.6);
    }
    this.line(ax - tick, y, bx + tick, y, 0.8);
    this.text((ax + bx) / 2, y - size * 0.35, size, words, 'middle');
  }

  upright(ay: number, by: number, x: number, fromX: number, words: string, size: number): void {
    const tick = size * 0.35;
    for (const y of [ay, by]) {
      this.line(fromX, y, x + Math.sign(x - fromX) * tick, y, 0.8);
      this.line(x - tick, y + tick, x + tick, y - tick, 1.6);
    }
    this.line(x, ay, x, by, 0.8);
    this.text(x - size * 0.35, (ay + by) / 2, size, words, 'middle', -90);
  }

  /** The whole sheet; `tiltDeg` turns everything on it clockwise, as a sheet lies askew on a scanner. */
  svg(tiltDeg = 0): string {
    const { width, height, ink } = this;
    const turn = tiltDeg === 0 ? '' : ` transform='rotate(${tiltDeg} ${width / 2} ${height / 2})'`;
    return `<svg xmlns='http://www.w3.org/2000/svg' width='${width}' height='${height}' viewBox='0 0 ${width} ${height}'><rect width='${width}' height='${height}' fill='${ink.paper}'/><g${turn}>${this.#parts.join('')}</g></svg>`;
  }
}

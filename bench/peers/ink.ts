import { penOf, type StrokePoint, shapeOfStroke } from '@miradero/core/freehand';

/** The limit of drawing: a bare canvas with one stroke on it. */
const canvas = document.createElement('canvas');
canvas.width = window.innerWidth;
canvas.height = window.innerHeight;
canvas.style.touchAction = 'none';
document.querySelector('#root')!.append(canvas);
const context = canvas.getContext('2d', { alpha: false })!;
const wish = { pen: penOf('hard-pencil'), nib: 4, smoothing: 0.4, ink: '#bf4128', seed: 1 };
let points: StrokePoint[] = [];
let pending = false;

function draw(): void {
  pending = false;
  context.fillStyle = '#797979';
  context.fillRect(0, 0, canvas.width, canvas.height);
  const { d, edge } = shapeOfStroke(points, wish, 1, 2);
  const path = new Path2D(d);
  if (edge) {
    context.lineWidth = edge.width;
    context.strokeStyle = edge.colour;
    context.stroke(path);
  }
  context.fillStyle = wish.ink;
  context.fill(path);
}

canvas.addEventListener('pointerdown', () => {
  points = [];
});
canvas.addEventListener('pointermove', (event) => {
  if (event.buttons === 0) return;
  for (const { clientX: x, clientY: y, pressure } of event.getCoalescedEvents())
    points.push({ x, y, pressure });
  if (pending) return;
  pending = true;
  requestAnimationFrame(draw);
});

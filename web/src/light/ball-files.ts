import type { LitBall } from '@miradero/core/items';
import { ballShapes } from '@miradero/core/light';
import { saveFile } from '../shell/index.ts';

/** Pixels, with the ball and what it throws on the ground in sight. */
const SIZE = { width: 1_032, height: 672, x: 516, y: 300, radius: 240 } as const;

/** The ball alone, on nothing: in exactly its colours. */
export async function ballPicture({ colours, direction }: LitBall): Promise<Blob> {
  const canvas = new OffscreenCanvas(SIZE.width, SIZE.height);
  const context = canvas.getContext('2d')!;
  for (const { d, fill } of ballShapes(colours, direction, SIZE)) {
    context.fillStyle = fill;
    context.fill(new Path2D(d));
  }
  return canvas.convertToBlob({ type: 'image/png' });
}

function ballSvg({ colours, direction }: LitBall): string {
  const paths = ballShapes(colours, direction, SIZE).map(({ d, fill }) => `<path fill="${fill}" d="${d}"/>`);
  const { width, height } = SIZE;
  const size = `viewBox="0 0 ${width} ${height}" width="${width}" height="${height}"`;
  return `<svg xmlns="http://www.w3.org/2000/svg" ${size}>${paths.join('')}</svg>\n`;
}

export async function saveBall(ball: LitBall, kind: 'png' | 'svg'): Promise<void> {
  const name = `${ball.title || 'Lit ball'}.${kind}`;
  if (kind === 'svg') saveFile(new Blob([ballSvg(ball)], { type: 'image/svg+xml' }), name);
  else saveFile(await ballPicture(ball), name);
}

import { useEffect, useRef } from 'react';
import type { AreaRead } from '../pixels/index.ts';

/** The pixels around what was read, enlarged, with what was read outlined. */
export function Loupe({ seen, sidePx }: { seen: AreaRead | undefined; sidePx: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const { width, height } = context.canvas;
    context.clearRect(0, 0, width, height);
    if (!seen || seen.width === 0) return;
    const scale = width / Math.max(seen.width, seen.height);
    const pixels = new OffscreenCanvas(seen.width, seen.height);
    pixels.getContext('2d')!.putImageData(new ImageData(seen.data, seen.width, seen.height), 0, 0);
    context.imageSmoothingEnabled = false;
    context.drawImage(pixels, 0, 0, seen.width * scale, seen.height * scale);
    const { x, y, width: across, height: down } = seen.area;
    for (const [line, colour] of [
      [3, 'rgba(20, 20, 20, 0.9)'],
      [1, '#fafaf9'],
    ] as const) {
      context.lineWidth = line;
      context.strokeStyle = colour;
      context.strokeRect(x * scale, y * scale, across * scale, down * scale);
    }
  }, [seen]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      width={sidePx * 2}
      height={sidePx * 2}
      className="bg-[#797979]"
      style={{ width: sidePx, height: sidePx }}
    />
  );
}

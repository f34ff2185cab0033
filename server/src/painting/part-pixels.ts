import { closeSync, openSync, readSync, rmSync } from 'node:fs';
import type { Rectangle } from '@miradero/core/geometry';
import type { Raster } from '@miradero/core/raster';
import type { PartPixels } from './paint-strips.ts';

/** Pixels held in memory: RGBA. */
export function pixelsInMemory(data: Buffer, width: number, height: number): PartPixels {
  const whole = new Uint8ClampedArray(data.buffer, data.byteOffset, data.length);
  return {
    ...{ width, height },
    read: () => ({ x: 0, y: 0, width, height, data: whole }),
    close: () => {},
  };
}

/** Bytes of a vips file before its pixels. Source: libvips 8, `vips_foreign_load_vips`, its header of 64 bytes. */
const VIPS_HEADER = 64;

/** Pixels of an uncompressed vips file, of which only what is wanted is read; closing it removes it. RGBA. */
export function pixelsInFile(path: string, width: number, height: number): PartPixels {
  const file = openSync(path, 'r');
  return {
    ...{ width, height },
    read(window: Rectangle): Raster {
      const data = new Uint8ClampedArray(window.width * window.height * 4);
      const stride = width * 4;
      const start = VIPS_HEADER + window.y * stride + window.x * 4;
      if (window.width === width) readSync(file, data, 0, data.length, start);
      else
        for (let row = 0; row < window.height; row += 1)
          readSync(file, data, row * window.width * 4, window.width * 4, start + row * stride);
      return { ...window, data };
    },
    close() {
      closeSync(file);
      rmSync(path, { force: true });
    },
  };
}

import type { Quad } from '@miradero/core/geometry';
import { findPaper, sizeOfPaper, squarePaper, whitenPaper } from '@miradero/core/picture';
import { expose } from 'comlink';

const pixelsOf = (bitmap: ImageBitmap): ImageData => {
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext('2d')!;
  context.drawImage(bitmap, 0, 0);
  return context.getImageData(0, 0, bitmap.width, bitmap.height);
};

/** Paper work off the main thread: a photograph of 12 megapixels takes about a second. */
const paper = {
  find: (photo: ImageBitmap): Quad | undefined => findPaper(pixelsOf(photo)),

  /** The squared sheet as a PNG; white where `isWhite`. @param aspect - width by height of the sheet */
  async square(photo: ImageBitmap, corners: Quad, aspect: number, isWhite: boolean): Promise<Blob> {
    const flat = squarePaper(pixelsOf(photo), corners, sizeOfPaper(corners, aspect));
    const { width, height, data } = isWhite ? whitenPaper(flat) : flat;
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')!.putImageData(new ImageData(data as ImageData['data'], width, height), 0, 0);
    return canvas.convertToBlob({ type: 'image/png' });
  },
};
export type PaperWork = typeof paper;

expose(paper);

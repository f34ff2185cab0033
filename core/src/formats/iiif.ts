/**
 * IIIF Image API 3.0, compliance level 1: parts of pictures by their addresses. Source: https://iiif.io/api/image/3.0/, 4 (requests)
 * and 5 (information); the compliance levels are a document of their own.
 */

/** Of an upright picture, whole pixels. */
export interface ImageSize {
  readonly width: number;
  readonly height: number;
}

/** What is asked for: a part of the full picture, and its size as it is handed out. */
export interface ImageRequest {
  readonly region: {
    readonly x: number;
    readonly y: number;
    readonly width: number;
    readonly height: number;
  };
  readonly size: ImageSize;
}

/** What stands in an address, unencoded. */
export interface ImageAddress {
  readonly region: string;
  readonly size: string;
  readonly rotation: string;
  readonly quality: string;
  readonly format: string;
}

/** An address that asks for nothing, or for what this level does not give. `status`: as the standard names it (4.7). */
export class ImageRequestError extends Error {
  readonly status: 400 | 501;
  constructor(status: 400 | 501, message: string) {
    super(message);
    this.status = status;
  }
}

const bad = (message: string) => new ImageRequestError(400, message);
const notGiven = (message: string) => new ImageRequestError(501, message);

/** 4.1: `full`, `square`, `x,y,w,h`; what lies beyond the picture is cut off. */
function regionOf(text: string, { width, height }: ImageSize): ImageRequest['region'] {
  if (text === 'full') return { x: 0, y: 0, width, height };
  if (text === 'square') {
    const side = Math.min(width, height);
    return {
      x: Math.floor((width - side) / 2),
      y: Math.floor((height - side) / 2),
      width: side,
      height: side,
    };
  }
  if (text.startsWith('pct:')) throw notGiven('Regions by percent are not given.');
  const match = /^(\d{1,7}),(\d{1,7}),(\d{1,7}),(\d{1,7})$/.exec(text);
  if (!match) throw bad(`“${text.slice(0, 60)}” is no region.`);
  const [x, y, w, h] = match.slice(1).map(Number) as [number, number, number, number];
  if (w === 0 || h === 0 || x >= width || y >= height) throw bad('The region holds nothing of the picture.');
  return { x, y, width: Math.min(w, width - x), height: Math.min(h, height - y) };
}

/** 4.2: `max`, `w,`, `,h`, `w,h`; larger than the region is not given without `^`, which this level does not know. */
function sizeOf(text: string, region: ImageSize, maxArea: number): ImageSize {
  if (text.startsWith('^') || text.startsWith('!') || text.startsWith('pct:'))
    throw notGiven('This form of a size is not given.');
  const match = /^(\d{0,7}),(\d{0,7})$/.exec(text);
  if (text !== 'max' && (!match || text === ',')) throw bad(`“${text.slice(0, 60)}” is no size.`);
  if (text === 'max') {
    const scale = Math.min(1, Math.sqrt(maxArea / (region.width * region.height)));
    return {
      width: Math.max(1, Math.floor(region.width * scale)),
      height: Math.max(1, Math.floor(region.height * scale)),
    };
  }
  const [w, h] = match!.slice(1).map((one) => (one === '' ? undefined : Number(one)));
  const width = w ?? Math.max(1, Math.round((h! * region.width) / region.height));
  const height = h ?? Math.max(1, Math.round((w! * region.height) / region.width));
  if (width === 0 || height === 0) throw bad('A size of nothing.');
  if (width > region.width || height > region.height) throw bad('The picture is not made larger.');
  if (width * height > maxArea) throw bad(`More than ${maxArea} pixels are not handed out at once.`);
  return { width, height };
}

/** @throws ImageRequestError */
export function parseImageRequest(address: ImageAddress, full: ImageSize, maxArea: number): ImageRequest {
  const { rotation, quality, format } = address;
  const region = regionOf(address.region, full);
  const size = sizeOf(address.size, region, maxArea);
  if (!/^!?\d+(?:\.\d+)?$/.test(rotation) || Number(rotation.replace('!', '')) > 360)
    throw bad('This is no rotation.');
  if (rotation !== '0') throw notGiven('Pictures are not turned.');
  if (!['default', 'color', 'gray', 'bitonal'].includes(quality)) throw bad('This is no quality.');
  if (quality !== 'default' && quality !== 'color') throw notGiven('This quality is not given.');
  if (!['jpg', 'png', 'tif', 'gif', 'jp2', 'pdf', 'webp'].includes(format)) throw bad('This is no format.');
  if (format !== 'jpg') throw notGiven('Pictures are given as JPEG.');
  return { region, size };
}

/** Sides of tiles that viewers should ask for, pixels. */
const TILE = 512;

/** 5: what a viewer has to know. @param id - address of the picture, without an end */
export function imageInformation(id: string, { width, height }: ImageSize, maxArea: number): object {
  const scaleFactors: number[] = [];
  for (
    let factor = 1;
    scaleFactors.length === 0 || Math.max(width, height) / (factor / 2) > TILE;
    factor *= 2
  )
    scaleFactors.push(factor);
  return {
    '@context': 'http://iiif.io/api/image/3/context.json',
    ...{ id, type: 'ImageService3', protocol: 'http://iiif.io/api/image', profile: 'level1' },
    ...{ width, height, maxArea },
    tiles: [{ width: TILE, height: TILE, scaleFactors }],
  };
}

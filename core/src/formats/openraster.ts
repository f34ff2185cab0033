import { unzipSync, type Zippable, zipSync } from 'fflate';
import { escapedMarkup } from './text-as-html.ts';

/** How a layer is mixed with what lies below it. Source: OpenRaster 0.0.6, "Layer stack", composite-op; W3C names. */
export type LayerBlend = 'normal' | 'multiply' | 'overlay';
const OPERATIONS: Readonly<Record<LayerBlend, string>> = {
  normal: 'svg:src-over',
  multiply: 'svg:multiply',
  overlay: 'svg:overlay',
};

/** A layer of an OpenRaster file: a PNG of the archive and where it lies, whole pixels from the upper left corner. */
export interface StackedLayer {
  readonly name: string;
  /** Path in the archive. */
  readonly src: string;
  readonly x: number;
  readonly y: number;
  /** 0..1 */
  readonly opacity: number;
  readonly blend: LayerBlend;
  readonly isHidden?: boolean;
}

const layerElement = ({ name, src, x, y, opacity, blend, isHidden = false }: StackedLayer): string =>
  `<layer name="${escapedMarkup(name)}" src="${escapedMarkup(src)}" x="${x}" y="${y}" opacity="${Number(opacity.toFixed(4))}" visibility="${isHidden ? 'hidden' : 'visible'}" composite-op="${OPERATIONS[blend]}"/>`;

/** Pixels an inch of a picture that does not say. */
const SCREEN_PPI = 72;

/**
 * The file `stack.xml` of an OpenRaster archive. Source: OpenRaster 0.0.6, "Layer stack": the uppermost layer is told first.
 *
 * @param size - whole pixels
 * @param layers - lowest first
 * @param ppi - pixels an inch, told whole
 */
export function openRasterStack(
  { width, height }: { readonly width: number; readonly height: number },
  layers: readonly StackedLayer[],
  ppi = SCREEN_PPI,
): string {
  const told = Math.round(ppi);
  const elements = [...layers].reverse().map(layerElement).join('\n');
  return `<?xml version="1.0" encoding="UTF-8"?>\n<image version="0.0.6" w="${width}" h="${height}" xres="${told}" yres="${told}">\n<stack>\n${elements}\n</stack>\n</image>\n`;
}

/** What stands for the whole picture. Source: OpenRaster file layout. */
export const MERGED_IMAGE = 'mergedimage.png';

/** The PNG that stands for the whole picture of an OpenRaster file; undefined where there is none, or none of a sound size. */
export function mergedOfOpenRaster(
  archive: Uint8Array,
  mostBytes: number,
): Uint8Array<ArrayBuffer> | undefined {
  try {
    const files = unzipSync(archive, {
      filter: ({ name, originalSize }) => name === MERGED_IMAGE && originalSize <= mostBytes,
    });
    const png = files[MERGED_IMAGE];
    return png && new Uint8Array(png);
  } catch {
    return undefined;
  }
}

/** A layer with its PNG. */
export interface LayerWithPixels extends StackedLayer {
  readonly png: Uint8Array;
}

/** What an OpenRaster file holds beside its layers. */
export interface BesideLayers {
  readonly ppi: number;
  /** PNG of the whole picture, as it is seen. */
  readonly merged: Uint8Array;
  /** PNG of at most 256 pixels a side. */
  readonly thumbnail: Uint8Array;
  /** Files of one's own, by path. */
  readonly beside?: Readonly<Record<string, Uint8Array>>;
}

/**
 * An OpenRaster file. Source: OpenRaster 0.0.6, "File layout": the type is the first entry, not packed.
 *
 * @param size - whole pixels
 * @param layers - lowest first
 */
export function openRasterFile(
  size: { readonly width: number; readonly height: number },
  layers: readonly LayerWithPixels[],
  { ppi, merged, thumbnail, beside = {} }: BesideLayers,
): Uint8Array<ArrayBuffer> {
  const text = new TextEncoder();
  const entries: [string, Uint8Array][] = [
    ['mimetype', text.encode('image/openraster')],
    ['stack.xml', text.encode(openRasterStack(size, layers, ppi))],
    ...layers.map(({ src, png }): [string, Uint8Array] => [src, png]),
    [MERGED_IMAGE, merged],
    ['Thumbnails/thumbnail.png', thumbnail],
    ...Object.entries(beside),
  ];
  // What is a PNG is packed already.
  const zippable: Zippable = Object.fromEntries(
    entries.map(([path, bytes]) => [path, [bytes, { level: 0 }]]),
  );
  return new Uint8Array(zipSync(zippable));
}

/** What an OpenRaster file holds. */
export interface OpenRaster {
  /** Pixels. */
  readonly width: number;
  readonly height: number;
  /** Pixels an inch. */
  readonly ppi: number;
  /** Lowest first. */
  readonly stack: readonly StackedLayer[];
  readonly files: ReadonlyMap<string, Uint8Array>;
}

const ENTITIES: Readonly<Record<string, string>> = {
  ...{ amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" },
};
const unescaped = (text: string): string =>
  text.replace(/&(amp|lt|gt|quot|apos);/g, (_, name: string) => ENTITIES[name]!);

function attributesOf(element: string): ReadonlyMap<string, string> {
  const found = element.matchAll(/([\w:-]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g);
  return new Map([...found].map(([, name, double, single]) => [name!, unescaped(double ?? single ?? '')]));
}

const whole = (text: string | undefined, otherwise: number): number => {
  const value = Number(text);
  return text !== undefined && Number.isFinite(value) ? Math.round(value) : otherwise;
};

/** All of a file is unpacked to so many bytes at most. */
const MOST_UNPACKED = 1024 * 1024 * 1024;

/** Reads an OpenRaster file; of what its layers say only what is known here. @returns undefined where it is none, or bursts */
export function readOpenRaster(archive: Uint8Array): OpenRaster | undefined {
  let files: Map<string, Uint8Array>;
  let unpacked = 0;
  const filter = ({ originalSize }: { originalSize: number }) => {
    unpacked += originalSize;
    return unpacked <= MOST_UNPACKED;
  };
  try {
    files = new Map(Object.entries(unzipSync(archive, { filter })));
  } catch {
    return undefined;
  }
  const xml = files.get('stack.xml');
  const image = xml && /<image\b[^>]*>/.exec(new TextDecoder().decode(xml));
  if (!image) return undefined;
  const told = attributesOf(image[0]);
  const [width, height] = [whole(told.get('w'), 0), whole(told.get('h'), 0)];
  if (width <= 0 || height <= 0) return undefined;
  const stack = [...image.input.matchAll(/<layer\b[^>]*>/g)].map(([element]): StackedLayer => {
    const of = attributesOf(element);
    const operation = of.get('composite-op');
    const blend = (Object.keys(OPERATIONS) as LayerBlend[]).find((one) => OPERATIONS[one] === operation);
    const opacity = Number(of.get('opacity') ?? 1);
    return {
      ...{ name: of.get('name') ?? '', src: of.get('src') ?? '', blend: blend ?? 'normal' },
      ...{ x: whole(of.get('x'), 0), y: whole(of.get('y'), 0) },
      opacity: Number.isFinite(opacity) ? Math.min(1, Math.max(0, opacity)) : 1,
      isHidden: of.get('visibility') === 'hidden',
    };
  });
  return { width, height, ppi: whole(told.get('xres'), SCREEN_PPI), stack: stack.reverse(), files };
}

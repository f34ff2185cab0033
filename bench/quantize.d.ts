/** It ships no types. */
declare module 'quantize' {
  type Pixel = readonly [number, number, number];
  /** @returns false for nothing to count */
  export default function quantize(
    pixels: readonly Pixel[],
    count: number,
  ): { palette(): [number, number, number][] } | false;
}

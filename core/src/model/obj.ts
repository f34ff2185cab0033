import type { ModelLook, ModelTrouble } from './look.ts';

/** Words with which a line of an OBJ may begin. Source: Wavefront Object Files, appendix B1. */
const KEYWORD =
  /^(?:#|vp?|vn|vt|[fgolsp]|us(?:emtl|emap)|m(?:tllib|aplib|g)|cstype|deg|bmat|step|curv2?|surf|parm|trim|hole|scrv|sp|end|con|bevel|c_interp|d_interp|lod|shadow_obj|trace_obj|ctech|stech)(?:\s|$|#)/;
const POINT = /^v\s+-?[\d.]+(?:[eE][-+]?\d+)?\s+-?[\d.]/;

/** Whether text begins as an OBJ does: every line by one of its words, and among them a point, a library or a name. */
export function isObjText(head: Uint8Array): boolean {
  const text = new TextDecoder('latin1').decode(head);
  if (text.includes('\0')) return false;
  const lines = text.split(/\r?\n/);
  // The last one may be cut off.
  const complete = (lines.length > 1 ? lines.slice(0, -1) : lines)
    .map((line) => line.replace(/^\u00ef\u00bb\u00bf/, '').trim())
    .filter((line) => line !== '');
  return (
    complete.every((line) => KEYWORD.test(line)) &&
    complete.some((line) => POINT.test(line) || /^(?:mtllib|o|g)\s+\S/.test(line))
  );
}

const LINE_FEED = 10;
const isSpace = (byte: number | undefined): boolean => byte === 32 || byte === 9;

/** Corners of a face: runs of what is no space, behind the `f`. */
function cornersIn(bytes: Uint8Array, from: number, to: number): number {
  let corners = 0;
  let wasSpace = true;
  for (let at = from; at < to; at += 1) {
    const byte = bytes[at]!;
    const isGap = byte === 32 || byte === 9 || byte === 13;
    if (!isGap && wasSpace) corners += 1;
    wasSpace = isGap;
  }
  return corners;
}

/** How many triangles an OBJ has; faces of more corners count as the triangles they are cut into. */
export function lookAtObj(bytes: Uint8Array): ModelLook | ModelTrouble {
  let triangles = 0;
  let points = 0;
  for (let start = 0; start < bytes.length; ) {
    const found = bytes.indexOf(LINE_FEED, start);
    const end = found < 0 ? bytes.length : found;
    let at = start;
    while (isSpace(bytes[at])) at += 1;
    if (isSpace(bytes[at + 1])) {
      if (bytes[at] === 0x66) triangles += Math.max(0, cornersIn(bytes, at + 1, end) - 2);
      else if (bytes[at] === 0x76) points += 1;
    }
    start = end + 1;
  }
  return triangles > 0 && points > 2 ? { triangles } : 'no-form';
}

/** The last part of a path, which alone names a file beside another. */
export const fileNameIn = (path: string): string => path.trim().split(/[/\\]/).pop() ?? '';

/** Names of the files with materials to which an OBJ refers, without their folders. */
export function librariesOfObj(text: string): string[] {
  return [...text.matchAll(/^[ \t]*mtllib[ \t]+(.+?)[ \t]*\r?$/gm)].map(([, name]) => fileNameIn(name!));
}

/** A material of an MTL, as far as it is shown. Colours are sRGB, 0..1, as programs write them. */
export interface ObjMaterial {
  readonly name: string;
  readonly colour: readonly [r: number, g: number, b: number];
  /** 0 is not seen, 1 opaque. */
  readonly opacity: number;
  /** Name of the file with its picture, without folders. */
  readonly picture: string | undefined;
}

const unit = (value: string | undefined, otherwise: number): number => {
  const number = Number(value);
  return value === undefined || !Number.isFinite(number) ? otherwise : Math.min(1, Math.max(0, number));
};

/** Options of a map and how many words each takes; what is left names the file. Source: MTL material format, 5-30. */
const MAP_OPTIONS =
  /-(?:(?:blendu|blendv|cc|clamp|texres|imfchan|type|bm|boost)\s+\S+|mm\s+\S+\s+\S+|[ost]\s+-?[\d.]+(?:\s+-?[\d.]+){0,2})\s+/g;

/** Materials of an MTL, in their order; what it says otherwise is left out. */
export function materialsOfMtl(text: string): ObjMaterial[] {
  const materials: ObjMaterial[] = [];
  for (const line of text.split(/\r?\n/)) {
    const [, word, rest] = /^\s*(\S+)\s+(.*?)\s*$/.exec(line) ?? [];
    if (word === undefined || rest === undefined) continue;
    if (word === 'newmtl') {
      materials.push({ name: rest, colour: [0.8, 0.8, 0.8], opacity: 1, picture: undefined });
      continue;
    }
    const last = materials.at(-1);
    if (!last) continue;
    const values = rest.split(/\s+/);
    const altered: Partial<ObjMaterial> | undefined =
      word === 'Kd'
        ? {
            colour: [
              unit(values[0], 0.8),
              unit(values[1] ?? values[0], 0.8),
              unit(values[2] ?? values[0], 0.8),
            ],
          }
        : word === 'd'
          ? { opacity: unit(values.at(-1), 1) }
          : word === 'Tr'
            ? { opacity: 1 - unit(values.at(-1), 0) }
            : word === 'map_Kd'
              ? { picture: fileNameIn(`${rest} `.replace(MAP_OPTIONS, '')) }
              : undefined;
    if (altered) materials[materials.length - 1] = { ...last, ...altered };
  }
  return materials;
}

import { strToU8, zipSync } from 'fflate';

/** A triangle of three corners, and the number of its colour. */
export interface Triangle {
  readonly corners: readonly (readonly [number, number, number])[];
  readonly colour: number;
}

/** Sides of a die: front, back, left hand, right hand, top, bottom. */
export const SIDES = ['front', 'back', 'left', 'right', 'top', 'bottom'] as const;
export const COLOURS = ['#d02020', '#20c0c0', '#20b030', '#c030c0', '#3040d0', '#d0c020'] as const;
/** Metres: from right to left, bottom to top, back to front. */
export const DIE = { width: 2, height: 1, depth: 3 } as const;

/** A box with a colour on each side, its front towards +z, its left hand towards +x, y up. */
export function die({
  width,
  height,
  depth,
}: typeof DIE | Record<keyof typeof DIE, number> = DIE): Triangle[] {
  const [x, y, z] = [width / 2, height / 2, depth / 2];
  const faces: (readonly [number, number, number])[][] = [
    [
      [-x, -y, z],
      [x, -y, z],
      [x, y, z],
      [-x, y, z],
    ],
    [
      [x, -y, -z],
      [-x, -y, -z],
      [-x, y, -z],
      [x, y, -z],
    ],
    [
      [x, -y, z],
      [x, -y, -z],
      [x, y, -z],
      [x, y, z],
    ],
    [
      [-x, -y, -z],
      [-x, -y, z],
      [-x, y, z],
      [-x, y, -z],
    ],
    [
      [-x, y, z],
      [x, y, z],
      [x, y, -z],
      [-x, y, -z],
    ],
    [
      [-x, -y, -z],
      [x, -y, -z],
      [x, -y, z],
      [-x, -y, z],
    ],
  ];
  return faces.flatMap(([a, b, c, d], colour) => [
    { corners: [a!, b!, c!], colour },
    { corners: [a!, c!, d!], colour },
  ]);
}

const channels = (hex: string) => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16) / 255);
const linear = (value: number) => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);

/** A binary glTF around a description. @param binary - its second chunk */
export function glbAround(described: unknown, binary = new Uint8Array()): Uint8Array {
  const json = strToU8(JSON.stringify(described));
  const padded = (bytes: Uint8Array, fill: number) => {
    const whole = new Uint8Array(Math.ceil(bytes.length / 4) * 4).fill(fill);
    whole.set(bytes);
    return whole;
  };
  const chunks = [
    { kind: 0x4e4f534a, bytes: padded(json, 32) },
    ...(binary.length > 0 ? [{ kind: 0x004e4942, bytes: padded(binary, 0) }] : []),
  ];
  const file = new Uint8Array(12 + chunks.reduce((sum, { bytes }) => sum + 8 + bytes.length, 0));
  const view = new DataView(file.buffer);
  for (const [index, value] of [0x46546c67, 2, file.length].entries()) view.setUint32(index * 4, value, true);
  let at = 12;
  for (const { kind, bytes } of chunks) {
    view.setUint32(at, bytes.length, true);
    view.setUint32(at + 4, kind, true);
    file.set(bytes, at + 8);
    at += 8 + bytes.length;
  }
  return file;
}

/** Description and binary chunk of triangles as glTF, one primitive for each colour. */
export function gltfOf(triangles: readonly Triangle[]) {
  const groups = COLOURS.map((_, colour) =>
    triangles.filter((one) => one.colour === colour).flatMap(({ corners }) => corners),
  );
  const used = groups.flatMap((corners, colour) => (corners.length > 0 ? [{ corners, colour }] : []));
  const positions = Float32Array.from(used.flatMap(({ corners }) => corners.flat()));
  let first = 0;
  const accessors = used.map(({ corners }) => {
    const of = (pick: (a: number, b: number) => number) =>
      corners.reduce<number[]>(
        (so, corner) => so.map((value, axis) => pick(value, corner[axis]!)),
        [...corners[0]!],
      );
    const accessor = {
      ...{ bufferView: 0, byteOffset: first * 12, componentType: 5126, count: corners.length },
      ...{ type: 'VEC3', min: of(Math.min), max: of(Math.max) },
    };
    first += corners.length;
    return accessor;
  });
  const described = {
    asset: { version: '2.0' },
    ...{ scene: 0, scenes: [{ nodes: [0] }], nodes: [{ mesh: 0 }] },
    meshes: [{ primitives: used.map((_, index) => ({ attributes: { POSITION: index }, material: index })) }],
    materials: used.map(({ colour }) => ({
      pbrMetallicRoughness: {
        baseColorFactor: [...channels(COLOURS[colour]!).map(linear), 1],
        ...{ metallicFactor: 0, roughnessFactor: 1 },
      },
    })),
    ...{ accessors, bufferViews: [{ buffer: 0, byteLength: positions.byteLength }] },
    buffers: [{ byteLength: positions.byteLength }],
  };
  return { described, binary: new Uint8Array(positions.buffer) };
}

export function asGlb(triangles: readonly Triangle[]): Uint8Array {
  const { described, binary } = gltfOf(triangles);
  return glbAround(described, binary);
}

export function asStl(triangles: readonly Triangle[]): Uint8Array {
  const file = new Uint8Array(84 + 50 * triangles.length);
  const view = new DataView(file.buffer);
  view.setUint32(80, triangles.length, true);
  for (const [index, { corners }] of triangles.entries())
    for (const [part, value] of corners.flat().entries())
      view.setFloat32(84 + index * 50 + 12 + part * 4, value, true);
  return file;
}

export const asTextStl = (triangles: readonly Triangle[]): Uint8Array =>
  strToU8(
    [
      'solid die',
      ...triangles.flatMap(({ corners }) => [
        ' facet normal 0 0 0\n  outer loop',
        ...corners.map((corner) => `   vertex ${corner.join(' ')}`),
        '  endloop\n endfacet',
      ]),
      'endsolid die\n',
    ].join('\n'),
  );

/** The text of an OBJ; materials are called by their side. */
export function asObj(triangles: readonly Triangle[], library = 'die.mtl'): string {
  const lines = [`# a die`, `mtllib ${library}`, 'o die'];
  let corner = 0;
  for (const { corners, colour } of triangles) {
    lines.push(`usemtl ${SIDES[colour]}`, ...corners.map((one) => `v ${one.join(' ')}`));
    lines.push('vt 0.25 0.25', `f ${[1, 2, 3].map((one) => `${corner + one}/1`).join(' ')}`);
    corner += 3;
  }
  return lines.join('\n');
}

export const asMtl = (pictures: Readonly<Record<string, string>> = {}): string =>
  SIDES.map((side, index) =>
    [
      `newmtl ${side}`,
      `Kd ${channels(COLOURS[index]!)
        .map((value) => value.toFixed(4))
        .join(' ')}`,
      ...(pictures[side] ? [`map_Kd -s 1 1 1 textures\\${pictures[side]}`] : []),
    ].join('\n'),
  ).join('\n\n');

/** An archive of an OBJ with its materials, and whatever else lies in it. */
export const asObjZip = (
  triangles: readonly Triangle[],
  others: Readonly<Record<string, Uint8Array>> = {},
): Uint8Array =>
  zipSync({
    'model/die.obj': strToU8(asObj(triangles)),
    'model/die.mtl': strToU8(asMtl()),
    ...others,
  });

/** A ball of about so many triangles. */
export function ball(triangles: number, radius = 1): Triangle[] {
  const rings = Math.max(3, Math.round(Math.sqrt(triangles / 4)));
  const around = rings * 2;
  const at = (ring: number, step: number): readonly [number, number, number] => {
    const down = (ring / rings) * Math.PI;
    const round = (step / around) * 2 * Math.PI;
    return [
      radius * Math.sin(down) * Math.sin(round),
      radius * Math.cos(down),
      radius * Math.sin(down) * Math.cos(round),
    ];
  };
  const all: Triangle[] = [];
  for (let ring = 0; ring < rings; ring += 1)
    for (let step = 0; step < around; step += 1) {
      const [a, b, c, d] = [at(ring, step), at(ring + 1, step), at(ring + 1, step + 1), at(ring, step + 1)];
      if (ring < rings - 1) all.push({ corners: [a, b, c], colour: 0 });
      if (ring > 0) all.push({ corners: [a, c, d], colour: 0 });
    }
  return all;
}

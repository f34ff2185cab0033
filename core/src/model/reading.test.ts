import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { INTAKE_TYPES, kindOfBytes } from '../picture/index.ts';
import {
  isModelType,
  isObjArchive,
  librariesOfObj,
  lookAtModel,
  MODEL_LIMITS,
  MODEL_TYPES,
  materialsOfMtl,
  readObjArchive,
  surfaceOfArchive,
} from './index.ts';
import {
  asGlb,
  asMtl,
  asObj,
  asObjZip,
  asStl,
  asTextStl,
  die,
  glbAround,
  gltfOf,
} from './test/made-models.ts';

const twelve = { triangles: 12 };

describe('kinds of models', () => {
  it('are told by what is in the file, whatever it is called', () => {
    expect(kindOfBytes(asGlb(die()))).toBe('model/gltf-binary');
    expect(kindOfBytes(asStl(die()))).toBe('model/stl');
    expect(kindOfBytes(asTextStl(die()))).toBe('model/stl');
    expect(kindOfBytes(strToU8(asObj(die())))).toBe('model/obj');
    expect(kindOfBytes(strToU8(`\ufeff# made by hand\r\n\r\n${asObj(die())}`))).toBe('model/obj');
    expect(isObjArchive(asObjZip(die()))).toBe(true);
    expect(MODEL_TYPES.every((type) => INTAKE_TYPES.includes(type) && isModelType(type))).toBe(true);
  });

  it('a binary STL is told by its length, also where its header begins as that of one of text', () => {
    const stl = asStl(die());
    stl.set(strToU8('solid and yet binary'));
    expect(kindOfBytes(stl)).toBe('model/stl');
    expect(kindOfBytes(stl.subarray(0, 100), stl.length)).toBe('model/stl');
    expect(kindOfBytes(stl.subarray(0, 100), stl.length + 1)).toBeUndefined();
  });

  it('notes, tables and code are none', () => {
    for (const text of [
      'v is for victory',
      'f 1 2 3 and so on\nfor ever',
      '{"v": 1}',
      'o',
      'solid ground\nunder us',
      '',
    ])
      expect(kindOfBytes(strToU8(text)), text).toBeUndefined();
  });

  it('an archive with several of them, or with none, is no model', () => {
    const obj = strToU8(asObj(die()));
    expect(isObjArchive(zipSync({ 'a.obj': obj, 'b/b.OBJ': obj }))).toBe(false);
    expect(isObjArchive(zipSync({ 'a.png': obj }))).toBe(false);
    expect(isObjArchive(zipSync({ '__MACOSX/._a.obj': obj }))).toBe(false);
    expect(isObjArchive(obj)).toBe(false);
  });
});

describe('lookAtModel', () => {
  it('counts triangles', () => {
    expect(lookAtModel(asGlb(die()), 'model/gltf-binary')).toEqual(twelve);
    expect(lookAtModel(asStl(die()), 'model/stl')).toEqual(twelve);
    expect(lookAtModel(asTextStl(die()), 'model/stl')).toEqual(twelve);
    expect(lookAtModel(strToU8(asObj(die())), 'model/obj')).toEqual(twelve);
    expect(lookAtModel(asObjZip(die()), 'model/x.obj+zip')).toEqual(twelve);
  });

  it('counts faces of many corners as the triangles they are cut into, and what stands several times each time', () => {
    const obj = strToU8('v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\n\tf  1//1 2//1   3//1 4//1 \r\nf 1 2\nfo 1 2 3');
    expect(lookAtModel(obj, 'model/obj')).toEqual({ triangles: 2 });
    const { described, binary } = gltfOf(die());
    const twice = { ...described, nodes: [{ mesh: 0, children: [1] }, { mesh: 0 }] };
    expect(lookAtModel(glbAround(twice, binary), 'model/gltf-binary')).toEqual({ triangles: 24 });
  });

  it('more than can be had in memory are refused', () => {
    const { described, binary } = gltfOf(die());
    const nodes = Array.from({ length: MODEL_LIMITS.triangles / 12 + 1 }, () => ({ mesh: 0 }));
    expect(lookAtModel(glbAround({ ...described, nodes }, binary), 'model/gltf-binary')).toBe(
      'too-many-triangles',
    );
  });

  it('a glTF that needs other files, or something that unpacks it, says so', () => {
    const { described, binary } = gltfOf(die());
    const look = (part: object) =>
      lookAtModel(glbAround({ ...described, ...part }, binary), 'model/gltf-binary');
    expect(look({ images: [{ uri: 'rust.png' }] })).toBe('needs-other-files');
    expect(look({ buffers: [{ byteLength: 4, uri: 'http://elsewhere.example/x' }] })).toBe(
      'needs-other-files',
    );
    expect(look({ images: [{ uri: 'data:image/png;base64,' }] })).toEqual(twelve);
    expect(look({ extensionsRequired: ['KHR_draco_mesh_compression'] })).toBe('packed');
    expect(look({ extensionsRequired: ['KHR_materials_unlit', 'KHR_texture_transform'] })).toEqual(twelve);
    expect(look({ nodes: [{}] })).toBe('no-form');
    expect(look({ meshes: [], nodes: [] })).toBe('no-form');
  });

  it('one whose parts do not fit together is damaged', () => {
    const { described, binary } = gltfOf(die());
    const [accessor] = described.accessors;
    const look = (part: object) =>
      lookAtModel(glbAround({ ...described, ...part }, binary), 'model/gltf-binary');
    for (const [words, part] of [
      ['more corners than bytes', { accessors: described.accessors.map((one) => ({ ...one, count: 1e6 })) }],
      ['no such accessor', { accessors: [accessor] }],
      ['a count that is none', { accessors: described.accessors.map((one) => ({ ...one, count: -3 })) }],
      ['a view beyond its buffer', { bufferViews: [{ buffer: 0, byteLength: 1e9 }] }],
      [
        'a buffer beyond the file',
        { buffers: [{ byteLength: 1e9 }], bufferViews: [{ buffer: 0, byteLength: 1e9 }] },
      ],
      ['a node below itself', { nodes: [{ mesh: 0, children: [1] }, { children: [0] }] }],
      ['a node in two places', { nodes: [{ mesh: 0, children: [2] }, { children: [2] }, {}] }],
      ['no list', { meshes: 7 }],
      ['another version', { asset: { version: '1.0' } }],
    ] as const)
      expect(look(part), words).toBe('damaged');
    const whole = glbAround(described, binary);
    expect(lookAtModel(whole.subarray(0, 200), 'model/gltf-binary')).toBe('damaged');
    expect(lookAtModel(whole.subarray(0, whole.length - 40), 'model/gltf-binary')).toBe('damaged');
  });

  it('text that was cut off, and what has no face, is said', () => {
    const text = asTextStl(die());
    expect(lookAtModel(text.subarray(0, text.length - 60), 'model/stl')).toBe('damaged');
    expect(lookAtModel(strToU8('solid\nendsolid'), 'model/stl')).toBe('no-form');
    expect(lookAtModel(strToU8('v 0 0 0\nv 1 0 0\nv 0 1 0\nl 1 2'), 'model/obj')).toBe('no-form');
    expect(lookAtModel(asObjZip(die()).subarray(0, 300), 'model/x.obj+zip')).toBe('damaged');
  });

  it('survives any bytes', () => {
    const part = fc.constantFrom(...[asGlb(die()), asStl(die()), asTextStl(die()), asObjZip(die())]);
    fc.assert(
      fc.property(
        part,
        fc.constantFrom(...MODEL_TYPES),
        fc.array(fc.tuple(fc.nat(), fc.nat(255))),
        (bytes, type, bent) => {
          const file = Uint8Array.from(bytes);
          for (const [at, value] of bent) file[at % file.length] = value;
          const look = lookAtModel(file, type);
          expect(typeof look === 'string' || look.triangles > 0).toBe(true);
        },
      ),
    );
  });
});

describe('an OBJ and what lies beside it', () => {
  it('names its libraries without their folders', () => {
    expect(librariesOfObj('mtllib ./paint/Die One.mtl\r\nv 0 0 0\n  mtllib C:\\x\\b.mtl')).toEqual([
      'Die One.mtl',
      'b.mtl',
    ]);
  });

  it('materials have colours, opacity and the file of their picture, whatever options stand before it', () => {
    const text = [
      'Kd 1 0 0',
      'newmtl rust red',
      'Kd 0.5',
      'd 0.25',
      'newmtl b',
      'Tr 0.1',
      'map_Kd -s 2 2 1 -o 0.5 -clamp on -mm 0 1 textures/old wood.png',
      'newmtl c',
      'Kd 7 nonsense -1',
    ].join('\n');
    expect(materialsOfMtl(text)).toEqual([
      { name: 'rust red', colour: [0.5, 0.5, 0.5], opacity: 0.25, picture: undefined },
      { name: 'b', colour: [0.8, 0.8, 0.8], opacity: 0.9, picture: 'old wood.png' },
      { name: 'c', colour: [1, 0.8, 0], opacity: 1, picture: undefined },
    ]);
    expect(materialsOfMtl(asMtl()).map(({ name }) => name)).toEqual([
      'front',
      'back',
      'left',
      'right',
      'top',
      'bottom',
    ]);
  });

  it('is found in its archive by name alone, and what is missing is named', () => {
    const archive = readObjArchive(
      zipSync({
        '../../../die.obj': strToU8(asObj(die(), '..\\DIE.mtl')),
        'elsewhere/die.MTL': strToU8(asMtl({ front: 'planks.png', back: 'rust.png' })),
        '/etc/Planks.PNG': strToU8('picture'),
        '.hidden': strToU8('no'),
      }),
    );
    if (typeof archive === 'string') throw new Error(archive);
    expect([...archive.others.keys()].sort()).toEqual(['die.mtl', 'planks.png']);
    const { materials, missing } = surfaceOfArchive(archive);
    expect(materials).toHaveLength(6);
    expect(materials[0]!.picture).toBe('planks.png');
    expect(missing).toEqual(['rust.png']);
  });

  it('one that says it is larger than can be unpacked is not unpacked', () => {
    const zip = zipSync({ 'a.obj': strToU8(asObj(die())) });
    // The size it says it has, in its directory at the end.
    const directory = zip.lastIndexOf(0x50, zip.length - 23);
    const view = new DataView(zip.buffer, zip.byteOffset);
    expect(view.getUint32(directory, true)).toBe(0x02014b50);
    view.setUint32(directory + 24, MODEL_LIMITS.textBytes + 1, true);
    expect(readObjArchive(zip)).toBe('too-many-triangles');
  });
});

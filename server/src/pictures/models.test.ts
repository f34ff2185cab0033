import type { IntakeAnswer, Picture, Problem } from '@miradero/core/schema';
import { strToU8, zipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  asGlb,
  asObj,
  asObjZip,
  asStl,
  asTextStl,
  ball,
  die,
  glbAround,
  gltfOf,
} from '../../../core/src/model/test/made-models.ts';
import { startTestServer, type TestServer } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

async function upload(name: string, bytes: Uint8Array, about?: object) {
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), name);
  if (about) form.append('about', JSON.stringify(about));
  const response = await server.ask('/api/pictures', { method: 'POST', body: form });
  return { ...((await response.json()) as IntakeAnswer & Problem), status: response.status };
}
const pictureAt = async (id: string) =>
  ((await (await server.ask(`/api/pictures/${id}`)).json()) as { picture: Picture }).picture;

let views = 0;
/** A picture as one is taken of a model, like no other. */
function stillOf(): Promise<Buffer> {
  views += 1;
  const background = { r: views, g: 255 - views, b: 40 };
  return sharp({ create: { width: 40, height: 30, channels: 3, background } })
    .png()
    .toBuffer();
}

describe('models', () => {
  it.each([
    ['die.glb', 'model/gltf-binary', asGlb(die())],
    ['die.stl', 'model/stl', asStl(die())],
    ['die.txt', 'model/stl', asTextStl(die())],
    ['die.obj', 'model/obj', strToU8(asObj(die()))],
    ['die.zip', 'model/x.obj+zip', asObjZip(die())],
  ])('%s comes in as %s, with its triangles, byte for byte', async (name, type, bytes) => {
    const { pictures, status } = await upload(name, bytes);
    expect(status).toBe(201);
    expect(pictures[0]).toMatchObject({ kind: 'model', type, frames: 1, facts: { triangles: 12 } });
    const original = await server.ask(`/api/pictures/${pictures[0]!.id}/original`);
    expect(original.headers.get('content-type')).toBe(type);
    expect(new Uint8Array(await original.arrayBuffer())).toEqual(new Uint8Array(bytes));
  });

  it('what is broken, packed, without form or too much is refused in words', async () => {
    const { described, binary } = gltfOf(die());
    const codeOf = async (bytes: Uint8Array) => (await upload('x', bytes)).refused[0]!.code;
    expect(await codeOf(asGlb(die()).subarray(0, 300))).toBe('damaged');
    expect(
      await codeOf(glbAround({ ...described, extensionsRequired: ['KHR_draco_mesh_compression'] }, binary)),
    ).toBe('packed');
    expect(await codeOf(strToU8('v 0 0 0\nv 1 0 0\nv 1 1 0\nl 1 2 3\n'))).toBe('no-form');
    const nodes = Array.from({ length: 700_000 }, () => ({ mesh: 0 }));
    const { refused } = await upload('crowd.glb', glbAround({ ...described, nodes }, binary));
    expect(refused[0]).toMatchObject({
      code: 'too-many-triangles',
      title: expect.stringContaining('8 million'),
    });
    // An archive that is no model is nothing the server opens.
    expect(await codeOf(zipSync({ 'a.png': strToU8('x') }))).toBe('unknown-kind');
    expect(await codeOf(zipSync({ 'a.obj': strToU8(asObj(die())), 'b.obj': strToU8('v') }))).toBe(
      'unknown-kind',
    );
  });

  it('of five million triangles one comes in, counted by its head', async () => {
    // Fifty thousand of them, a hundred times.
    const { described, binary } = gltfOf(ball(50_000));
    const nodes = Array.from({ length: 100 }, () => ({ mesh: 0 }));
    const scenes = [{ nodes: [...nodes.keys()] }];
    const { pictures } = await upload('large.glb', glbAround({ ...described, nodes, scenes }, binary));
    expect(pictures[0]!.facts.triangles).toBeGreaterThan(4_900_000);
  });

  it('which way one stands is kept, and nothing else of what its file told goes', async () => {
    const { pictures } = await upload('stands.glb', asGlb(die({ width: 1, height: 2, depth: 3 })));
    const { id } = pictures[0]!;
    const stance = { up: 'z', frontDeg: -12.5 };
    expect((await server.send('PATCH', `/api/pictures/${id}`, { stance })).status).toBe(200);
    expect((await pictureAt(id)).facts).toEqual({ triangles: 12, stance });
    for (const bad of [{ up: 'x', frontDeg: 0 }, { up: 'y', frontDeg: 400 }, { up: 'y' }, null])
      expect((await server.send('PATCH', `/api/pictures/${id}`, { stance: bad })).status).toBe(400);
  });
});

describe('a picture that was taken of a model', () => {
  const angles = { azimuthDeg: 40.5, elevationDeg: 20, lightAzimuthDeg: -40, lightElevationDeg: 45 };

  it('keeps how it was taken, and serves what the model serves, with its figures', async () => {
    const subject = '5ab10000-0000-4000-8000-000000000001';
    const [part, inner, other] = [2, 3, 4].map((n) => `5ab10000-0000-4000-8000-00000000000${n}`);
    await server.send('PATCH', `/api/subjects/${subject}`, {
      name: 'the die',
      parts: [{ id: part, name: 'a side', parts: [{ id: inner, name: 'a dot' }] }],
    });
    await server.send('PATCH', `/api/subjects/${other}`, { name: 'something else', parts: [] });
    const { pictures } = await upload('die.glb', asGlb(die({ width: 3, height: 1, depth: 1 })));
    const model = pictures[0]!.id;
    await server.send('PATCH', `/api/pictures/${model}`, { addParts: [inner] });
    const taken = { model, ...angles, lensMm: 85 };
    const bytes = await stillOf();
    const [still] = (await upload('view.png', bytes, { name: 'die, from the left', taken })).pictures;
    const view = { ...angles, distance: null, lensMm: 85 };
    expect(await pictureAt(still!.id)).toMatchObject({
      facts: { taken, focalLength35Mm: 85 },
      parts: [inner],
      views: { [subject]: view },
    });
    expect(Object.keys((await pictureAt(still!.id)).views)).toEqual([subject]);

    // Said by hand since: the same picture taken once more leaves that as it is.
    const said = { ...view, azimuthDeg: 90 };
    await server.send('PATCH', `/api/pictures/${still!.id}`, { views: { [subject]: said } });
    await upload('view.png', bytes, { taken });
    expect((await pictureAt(still!.id)).views).toEqual({ [subject]: said });
  });

  it('of a model that serves nothing, or is nobody’s, it is a picture with its figures', async () => {
    const { pictures } = await upload('die.stl', asStl(die({ width: 4, height: 1, depth: 1 })));
    for (const model of [pictures[0]!.id, '00000000-0000-4000-8000-000000000009']) {
      const taken = { model, ...angles, lensMm: null };
      const [still] = (await upload('view.png', await stillOf(), { taken })).pictures;
      expect(still).toMatchObject({ facts: { taken }, parts: [], views: {} });
      expect(still!.facts.focalLength35Mm).toBeUndefined();
    }
  });

  it('figures that are none are refused', async () => {
    const still = await stillOf();
    for (const bad of [{ ...angles, model: 'x', lensMm: 50 }, { ...angles, lensMm: 50 }, { azimuthDeg: 999 }])
      expect((await upload('view.png', still, { taken: bad })).status).toBe(400);
  });
});

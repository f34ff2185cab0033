import { randomUUID } from 'node:crypto';
import type { Picture, Subject, SubjectPart } from '@miradero/core/schema';
import { testPicture } from './pictures.ts';

/** Makes a subject; parts are given as "hull[plates rail] ramps". @returns its id, and those of its parts by name */
export async function makeSubject(
  address: string,
  name: string,
  parts: string,
): Promise<{ id: string; parts: ReadonlyMap<string, string> }> {
  const id = randomUUID();
  const ids = new Map<string, string>();
  const made = (one: string) => {
    ids.set(one, randomUUID());
    return { id: ids.get(one)!, name: one };
  };
  const tree: SubjectPart[] = [...parts.matchAll(/([^\s[\]]+)(?:\[([^\]]*)\])?/g)].map(
    ([, one, inner = '']) => ({
      ...made(one!),
      parts: inner.split(' ').filter(Boolean).map(made),
    }),
  );
  const response = await fetch(`${address}/api/subjects/${id}`, {
    method: 'PATCH',
    body: JSON.stringify({ name, parts: tree }),
    headers: { 'Content-Type': 'application/json' },
  });
  if (!response.ok) throw new Error(await response.text());
  return { id, parts: ids };
}

export async function subjectAt(address: string, id: string): Promise<Subject> {
  return ((await (await fetch(`${address}/api/subjects/${id}`)).json()) as { subject: Subject }).subject;
}

/** The names of the parts as `makeSubject` takes them. */
export const partsIn = ({ parts }: Subject): string =>
  parts
    .map(({ name, parts: inner }) =>
      inner.length > 0 ? `${name}[${inner.map((one) => one.name).join(' ')}]` : name,
    )
    .join(' ');

/** Brings a picture in that stands nowhere. */
export async function bringPicture(address: string, seed: number, name: string): Promise<string> {
  const form = new FormData();
  form.append('about', JSON.stringify({ name }));
  form.append('file', new Blob([new Uint8Array(await testPicture(seed))]), `${name}.jpg`);
  const response = await fetch(`${address}/api/pictures`, { method: 'POST', body: form });
  return ((await response.json()) as { pictures: Picture[] }).pictures[0]!.id;
}

export async function patchPicture(address: string, id: string, patch: object): Promise<void> {
  const response = await fetch(`${address}/api/pictures/${id}`, {
    method: 'PATCH',
    body: JSON.stringify(patch),
    headers: { 'Content-Type': 'application/json' },
  });
  if (!response.ok) throw new Error(await response.text());
}

export async function pictureAt(address: string, id: string): Promise<Picture> {
  return ((await (await fetch(`${address}/api/pictures/${id}`)).json()) as { picture: Picture }).picture;
}

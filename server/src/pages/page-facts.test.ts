import { describe, expect, it } from 'vitest';
import { readPageFacts } from './page-facts.ts';
import { parsePage } from './page-tree.ts';

const ADDRESS = 'https://marsh.example/dawn';
const factsOf = (linked: string) =>
  readPageFacts(parsePage(`<script type="application/ld+json">${linked}</script>`), ADDRESS);
const picture = (creator: unknown) => JSON.stringify({ '@type': 'Photograph', creator });

describe('what a page tells of its picture', () => {
  it('names who made it, several one after the other, each once within lists', () => {
    expect(factsOf(picture([{ name: 'Ida Fenn' }, ['Low Sallow Press']])).creator).toBe(
      'Ida Fenn, Low Sallow Press',
    );
    expect(factsOf(picture([null, 7, ' '])).creator).toBeNull();
  });

  it('is looked at in part alone where it is made to be endless', () => {
    const many = Array.from({ length: 400_000 }, () => 1);
    expect(factsOf(JSON.stringify([{ '@type': 'Photograph', name: 'Dawn' }, many])).title).toBe('Dawn');
    const deep = `{"@type":"Photograph","name":"Dawn","creator":${'['.repeat(50_000)}${']'.repeat(50_000)}}`;
    expect(factsOf(deep)).toMatchObject({ title: 'Dawn', creator: null });
    const names = factsOf(picture(many.map((_, at) => `Hand ${at}`))).creator!;
    expect(names.startsWith('Hand 0, Hand 1')).toBe(true);
    expect(names.length).toBeLessThan(1_000);
  });
});

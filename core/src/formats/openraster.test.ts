import { describe, expect, it } from 'vitest';
import { openRasterStack } from './openraster.ts';

describe('the stack of a layered picture', () => {
  it('tells the uppermost layer first, each with its place, opacity and mode, at a resolution', () => {
    const xml = openRasterStack(
      { width: 1_600, height: 1_040 },
      [
        { name: 'ground', src: 'data/0.png', x: 0, y: 0, opacity: 1, blend: 'normal' },
        { name: 'shadow & <more>', src: 'data/1.png', x: 12, y: 7, opacity: 1 / 3, blend: 'multiply' },
        { name: 'light', src: 'data/2.png', x: 0, y: 0, opacity: 1, blend: 'overlay', isHidden: true },
      ],
      299.7,
    );
    expect(xml).toContain('<image version="0.0.6" w="1600" h="1040" xres="300" yres="300">');
    const layers = [...xml.matchAll(/<layer ([^>]*)\/>/g)].map(([, attributes]) =>
      Object.fromEntries(
        [...attributes!.matchAll(/([\w-]+)="([^"]*)"/g)].map(([, key, value]) => [key!, value!]),
      ),
    );
    expect(layers.map(({ name }) => name)).toEqual(['light', 'shadow &amp; &lt;more&gt;', 'ground']);
    expect(layers.map((layer) => layer['composite-op'])).toEqual([
      'svg:overlay',
      'svg:multiply',
      'svg:src-over',
    ]);
    expect(layers[1]).toMatchObject({ x: '12', y: '7', opacity: '0.3333', visibility: 'visible' });
    expect(layers[0]!.visibility).toBe('hidden');
  });

  it('is at the resolution of a screen where none is told', () => {
    expect(openRasterStack({ width: 1, height: 1 }, [])).toContain('xres="72" yres="72"');
  });
});

import assert from 'node:assert/strict';
import { test } from 'node:test';
import { circlesIn, faultOf, importsOf } from './architecture.mjs';

test('finds imports of values, of types, re-exports, dynamic ones and workers, and none in strings', () => {
  const source = `
    import type { A } from './a.ts';
    import { type B, c } from './b.ts';
    export * from './d.ts';
    export type { E } from './e.ts';
    import './f.css';
    const g = import('./g.ts');
    new Worker(new URL('./h.worker.ts', import.meta.url));
    const text = "from './no.ts'";
    void [c, g, text];
  `;
  assert.deepEqual(importsOf(source, 'ts').sort(), [
    './a.ts',
    './b.ts',
    './d.ts',
    './e.ts',
    './f.css',
    './g.ts',
    './h.worker.ts',
  ]);
});

test('refuses arrows that point upward, past an index, out of core or into web', () => {
  assert.match(faultOf('core/src/geometry/point.ts', '../board/index.ts'), /downward/);
  assert.match(faultOf('core/src/board/state.ts', '../geometry/point.ts'), /index/);
  assert.match(faultOf('core/src/board/state.ts', 'node:fs'), /Node/);
  assert.match(faultOf('server/src/main.ts', '@miradero/web/x'), /may not use web/);
  assert.match(faultOf('server/src/database/owner.ts', '../boards/routes.ts'), /downward/);
  assert.match(faultOf('web/src/stage/scene.ts', '../boards/index.ts'), /downward/);
  assert.match(faultOf('web/src/gather/reading/read-html.ts', '../keeping/bring.ts'), /downward/);
  assert.match(faultOf('web/src/easel/painting/sheet/painting.ts', '../hand/draw-tool.ts'), /downward/);
  assert.match(faultOf('web/src/easel/following/follower.ts', '../painting/begin.ts'), /downward/);
  assert.equal(faultOf('web/src/easel/painting/hand/draw-tool.ts', '../sheet/painting.ts'), undefined);
  assert.equal(faultOf('web/src/gather/keeping/bring.ts', '../reading/read-html.ts'), undefined);
});

test('lets arrows pass that point downward', () => {
  assert.equal(faultOf('core/src/board/state.ts', '../schema/index.ts'), undefined);
  assert.equal(faultOf('web/src/boards/sill.tsx', '../desk/index.ts'), undefined);
  assert.equal(faultOf('web/src/boards/sill.tsx', './overlay.ts'), undefined);
  assert.equal(faultOf('web/src/app/registry.ts', '../boards/commands.ts'), undefined);
  assert.match(faultOf('web/src/boards/sill.tsx', '../desk/commands.ts'), /index/);
  assert.equal(faultOf('server/src/boards/routes.ts', '@miradero/core/board'), undefined);
});

test('finds a circle and only circles', () => {
  assert.deepEqual(
    circlesIn(
      new Map([
        ['a', ['b', 'c']],
        ['b', ['c']],
        ['c', []],
      ]),
    ),
    [],
  );
  assert.deepEqual(
    circlesIn(
      new Map([
        ['a', ['b']],
        ['b', ['c']],
        ['c', ['a']],
      ]),
    ),
    ['a → b → c → a'],
  );
});

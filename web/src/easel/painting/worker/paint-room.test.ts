import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { FromKeeper, FromPaint, LayerAct, PaintFacts, ToKeeper, ToPaint } from '../messages.ts';
import { PaintRoom } from './paint-room.ts';

/** A keeper that has nothing, and writes whatever it is told. */
class Port {
  readonly files: number[] = [];
  onmessage: ((event: MessageEvent<FromKeeper>) => void) | null = null;

  postMessage(message: ToKeeper): void {
    if (message.kind === 'open') this.#tell({ kind: 'none' });
    else if (message.kind === 'pack')
      this.#tell({ kind: 'packed', memory: message.tiles.map(({ pixels }) => pixels.buffer) });
    else if (message.kind === 'save') this.#tell({ kind: 'saved', trouble: null });
    else if (message.kind === 'export') this.files.push(message.ask);
  }

  #tell(message: FromKeeper): void {
    queueMicrotask(() => this.onmessage?.({ data: message } as MessageEvent<FromKeeper>));
  }
}

const SHEET = { width: 600, height: 400, ppi: 100, ground: [255, 255, 255], reference: null } as const;
const BRUSH = {
  ...{ sizePx: 20, opacity: 1, hardness: 1, flow: 1, leanWidens: 1 },
  pressureTo: { size: false, opacity: false },
} as const;
const AROUND = [
  { x: 50, y: 50 },
  { x: 350, y: 50 },
  { x: 350, y: 150 },
  { x: 50, y: 150 },
];

let port: Port;
let room: PaintRoom;
let facts: PaintFacts | undefined;
let refused: string[];
let shown: number;
const hear = (...messages: readonly Exclude<ToPaint, { kind: 'open' | 'file' }>[]) => {
  for (const message of messages) room.hear(message);
};
const WISH = { layer: 'sketch', does: 'paint', brush: BRUSH, colour: [0, 0, 0], smoothing: 0 } as const;
const take = (number: number, corners = AROUND) => hear({ kind: 'take', layer: 'sketch', corners, number });
const files = () => vi.waitFor(() => expect(port.files.length).toBeGreaterThan(0)).then(() => port.files);

beforeEach(async () => {
  port = new Port();
  refused = [];
  const own = new PaintRoom((message: FromPaint) => {
    // One of a test before counts its bare ground later.
    if (room !== own) return;
    if (message.kind === 'facts' || message.kind === 'opened') facts = message.facts;
    else if (message.kind === 'refused') refused.push(message.why);
    else if (message.kind === 'parts') shown += 1;
  });
  room = own;
  const opening = room.open({
    ...{ kind: 'open', drawing: 'd', keeper: port as unknown as MessagePort },
    ...{ version: null, fresh: SHEET },
  });
  room.come(null);
  await opening;
  hear(
    {
      kind: 'begin',
      wish: { layer: 'sketch', does: 'paint', brush: BRUSH, colour: [0, 0, 0], smoothing: 0 },
    },
    {
      kind: 'way',
      points: [100, 200, 300].map((x) => ({ x, y: 100, pressure: 1 })),
      number: 3,
    },
    { kind: 'end' },
  );
});

const stroke = (y: number, more: { isInstead?: boolean; does?: 'erase' } = {}) =>
  hear(
    {
      ...{ kind: 'begin', isInstead: more.isInstead ?? false },
      wish: { ...WISH, does: more.does ?? 'paint' },
    },
    { kind: 'way', points: [100, 300].map((x) => ({ x, y, pressure: 1 })), number: 2 },
    { kind: 'end' },
  );
/** Whether anything of the layer is painted about a height. */
const isPaintedAt = (y: number): boolean => {
  refused = [];
  take(
    99,
    AROUND.map((corner) => ({ x: corner.x, y: corner.y + y - 100 })),
  );
  hear({ kind: 'cancel' });
  return refused.length === 0;
};

describe('a stroke that leaves nothing', () => {
  it.each([
    ['beside the sheet', () => stroke(-200)],
    ['of an eraser where nothing is', () => stroke(300, { does: 'erase' })],
    ['that is taken back while it is made', () => hear({ kind: 'begin', wish: WISH }, { kind: 'cancel' })],
  ])('%s is no change: no version is made of it, and undo takes back what was painted before', (_, make) => {
    const { change } = facts!;
    make();
    expect(facts).toMatchObject({ change, canUndo: true });
    hear({ kind: 'undo' });
    expect(facts).toMatchObject({ change: change + 1, canUndo: false });
  });

  it('takes back nothing else when it is meant as something', () => {
    stroke(-200);
    stroke(250, { isInstead: true });
    expect([isPaintedAt(100), isPaintedAt(250)]).toEqual([true, true]);
    // That one left something: it is in the place of it.
    stroke(350, { isInstead: true });
    expect([isPaintedAt(100), isPaintedAt(250), isPaintedAt(350)]).toEqual([true, false, true]);
  });

  it('is meant as something no more once something else was done', () => {
    hear(
      { kind: 'undo' },
      { kind: 'redo' },
      { kind: 'layers', what: { act: 'add', id: 'n', layer: 'ink', above: 'sketch' } },
    );
    stroke(250, { isInstead: true });
    expect([isPaintedAt(100), isPaintedAt(250)]).toEqual([true, true]);
  });
});

describe('what comes too late', () => {
  it('is refused in words of a person', () => {
    const act = (what: LayerAct) => hear({ kind: 'layers', what });
    act({ act: 'alter', id: 'sketch', facts: { isLocked: true } });
    stroke(250);
    take(1);
    act({ act: 'remove', id: 'sketch' });
    act({ act: 'remove', id: 'sketch' });
    stroke(250);
    act({ act: 'merge', id: 'ground' });
    expect(refused).toEqual([
      ...['The layer “sketch” is locked.', 'The layer “sketch” is locked.'],
      ...['That layer is not there any more.', 'That layer is not there any more.'],
      'That layer cannot be merged with the one below it.',
    ]);
    hear({ kind: 'undo' });
    expect(facts!.layers.map(({ id }) => id)).toContain('sketch');
  });
});

describe('a sheet that is painted', () => {
  it('takes a long way that is told at once: a page that was held up tells all of it together', () => {
    const wish = { layer: 'sketch', does: 'paint', colour: [0, 0, 0], smoothing: 0.3 } as const;
    const points = Array.from({ length: 400 }, (_, at) => ({
      x: at % 2 === 0 ? 50 : 550,
      y: 200,
      pressure: 1,
    }));
    hear({ kind: 'begin', wish: { ...wish, brush: { ...BRUSH, sizePx: 3 } } });
    shown = 0;
    hear({ kind: 'way', points, number: points.length }, { kind: 'end' });
    expect(refused).toEqual([]);
    expect(shown).toBeGreaterThan(0);
    take(
      1,
      AROUND.map(({ x, y }) => ({ x, y: y + 100 })),
    );
    expect(facts!.taken).not.toBeNull();
  });

  it('answers every taking by its number, also where nothing was there', () => {
    take(1);
    expect(facts).toMatchObject({ takes: 1, taken: { y: expect.any(Number) } });
    hear({ kind: 'cancel' });
    expect(facts).toMatchObject({ takes: 1, taken: null });
    take(
      2,
      AROUND.map(({ x, y }) => ({ x, y: y + 200 })),
    );
    expect(facts).toMatchObject({ takes: 2, taken: null });
    expect(refused).toEqual(['Nothing is painted there on this layer.']);
  });

  it.each([
    ['left there', { kind: 'settle' }],
    ['put back', { kind: 'cancel' }],
    ['taken away', { kind: 'discard' }],
  ] as const)('makes a file that waits once what is carried is %s', async (_, message) => {
    take(1);
    hear({ kind: 'export', ask: 7, as: 'openraster', waits: true });
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect([port.files, facts!.taken === null]).toEqual([[], false]);
    hear(message);
    expect(await files()).toEqual([7]);
  });

  it('shows what is carried where it came last, however fast it is told', async () => {
    take(1);
    shown = 0;
    for (let y = 1; y <= 100; y += 1) hear({ kind: 'carry', to: [1, 0, 0, 1, 0, y] });
    await vi.waitFor(() => expect(shown).toBe(1));
    for (let y = 1; y <= 100; y += 1) hear({ kind: 'carry', to: [1, 0, 0, 1, 0, 2 * y] });
    hear({ kind: 'settle' });
    await new Promise((resolve) => setTimeout(resolve, 20));
    // Once where it came last, and once more as it is done.
    expect(shown).toBe(3);
    take(
      2,
      AROUND.map((corner) => ({ x: corner.x, y: corner.y + 200 })),
    );
    expect(facts!.taken!.y).toBeGreaterThan(280);
  });

  it('puts what is carried down for one that does not wait', async () => {
    take(1);
    hear({ kind: 'export', ask: 8, as: 'png', waits: false });
    expect(facts!.taken).toBeNull();
    expect(await files()).toEqual([8]);
  });
});

import sharp from 'sharp';
import type { Truth } from '../../truth/truth.ts';
import { frontView, planView, sideView } from '../drawings/ferry-views.ts';
import type { LineDrawing } from '../drawings/lines.ts';
import { Sheet } from '../drawings/sheet.ts';
import { FERRY } from '../models/ferry-sizes.ts';
import { PICTURES, writeTruth } from './pictures.ts';

const PAPER = { paper: '#f3efe4', line: '#23272b', penPx: 1.3 } as const;

interface Plan {
  readonly file: string;
  readonly title: string;
  readonly view: 'side' | 'plan' | 'front';
  readonly drawing: () => LineDrawing;
  readonly width: number;
  readonly height: number;
  readonly pixelsPerMetre: number;
  readonly origin: readonly [number, number];
  readonly tiltDeg: number;
  readonly measures: (sheet: Sheet, at: (x: number, y: number) => [number, number]) => void;
}

const metres = (value: number): string => `${value.toFixed(2)} m`;
const HALF = FERRY.lengthM / 2;

/** The three drawings to scale; each was saved by somebody else, at another scale, one of them askew. */
const PLANS: readonly Plan[] = [
  {
    ...{ file: 'ferry-side-elevation.png', title: 'Ferry, side elevation', view: 'side', drawing: sideView },
    ...{ width: 1800, height: 880, pixelsPerMetre: 112, origin: [900, 600], tiltDeg: 0 },
    measures(sheet, at) {
      const [left, low] = at(-HALF, -FERRY.draughtM);
      const [right] = at(HALF, 0);
      sheet.level(left, right, low + 74, low + 12, metres(FERRY.lengthM), 22);
      const [end] = at(HALF + FERRY.rampLengthM, 0);
      sheet.level(right, end, low + 74, low - 60, metres(FERRY.rampLengthM), 22);
      const [x, deck] = at(-HALF - FERRY.rampLengthM - 0.35, FERRY.deckM);
      sheet.upright(at(0, 0)[1], deck, x, x + 50, metres(FERRY.deckM), 20);
      const [mast, top] = at(2.55, FERRY.mastTopM);
      sheet.upright(at(0, 0)[1], top, mast + 470, mast + 30, metres(FERRY.mastTopM), 22);
    },
  },
  {
    ...{ file: 'ferry-plan.png', title: 'Ferry, plan', view: 'plan', drawing: planView },
    ...{ width: 1600, height: 620, pixelsPerMetre: 96, origin: [800, 300], tiltDeg: 1.7 },
    measures(sheet, at) {
      const [left, low] = at(-HALF, -FERRY.beamM / 2);
      const [right, high] = at(HALF, FERRY.beamM / 2);
      sheet.level(left, right, low + 66, low + 16, metres(FERRY.lengthM), 20);
      const [x] = at(-HALF - FERRY.rampLengthM - 0.3, 0);
      sheet.upright(low, high, x, left - 12, metres(FERRY.beamM), 20);
    },
  },
  {
    ...{ file: 'ferry-front-elevation.png', title: 'Ferry, from the bow', view: 'front', drawing: frontView },
    ...{ width: 1200, height: 1280, pixelsPerMetre: 205, origin: [600, 1010], tiltDeg: 0 },
    measures(sheet, at) {
      const [left, low] = at(-FERRY.beamM / 2, -FERRY.draughtM);
      const [right] = at(FERRY.beamM / 2, 0);
      sheet.level(left, right, low + 92, low + 14, metres(FERRY.beamM), 26);
      const [mast, top] = at(0.9, FERRY.mastTopM);
      sheet.upright(at(0, 0)[1], top, mast + 340, mast + 40, metres(FERRY.mastTopM), 26);
      const house = 0.55;
      const [from, eaves] = at(house - FERRY.houseWidthM / 2, FERRY.deckM + FERRY.houseHeightM);
      const [to] = at(house + FERRY.houseWidthM / 2, 0);
      sheet.level(from, to, eaves - 190, eaves - 20, metres(FERRY.houseWidthM), 24);
    },
  },
];

async function shipPlan(plan: Plan): Promise<void> {
  const { file, title, view, width, height, pixelsPerMetre, origin, tiltDeg } = plan;
  const sheet = new Sheet(width, height, PAPER);
  sheet.view(plan.drawing(), ...origin, pixelsPerMetre);
  const at = (x: number, y: number): [number, number] => [
    origin[0] + x * pixelsPerMetre,
    origin[1] - y * pixelsPerMetre,
  ];
  plan.measures(sheet, at);
  sheet.text(34, height - 30, 24, `${title} · chain ferry, Low Sallow`);
  await sharp(Buffer.from(sheet.svg(tiltDeg)))
    .png({ palette: true, colours: 48, effort: 8 })
    .toFile(`${PICTURES}${file}`);
  const turn = (tiltDeg * Math.PI) / 180;
  const marks = Object.entries(marksOf(view)).map(([name, [x, y]]) => {
    const [px, py] = at(x, y);
    const [dx, dy] = [px - width / 2, py - height / 2];
    return {
      name,
      atM: view === 'plan' ? [x, 0, -y] : view === 'side' ? [x, y, 0] : [0, y, -x],
      x: Number((width / 2 + dx * Math.cos(turn) - dy * Math.sin(turn)).toFixed(2)),
      y: Number((height / 2 + dx * Math.sin(turn) + dy * Math.cos(turn)).toFixed(2)),
      isSeen: true,
    };
  });
  await writeTruth({
    ...{ file, title, subject: 'the ferry', kind: 'drawing', mediaType: 'image/png', width, height },
    dimensionsM: { ...FERRY },
    drawing: { view, pixelsPerMetre, tiltDeg },
    marks,
  } as Truth);
}

/** Corners of the outer lines, metres of the drawing. */
function marksOf(view: Plan['view']): Record<string, readonly [number, number]> {
  if (view === 'side')
    return {
      'hull, stern at the waterline, lower end': [-HALF + 0.95, -FERRY.draughtM],
      'hull, bow at the waterline, lower end': [HALF - 0.95, -FERRY.draughtM],
      'bow ramp, lower outer corner': [HALF + FERRY.rampLengthM, FERRY.deckM - 0.03],
      'stern ramp, lower outer corner': [-HALF - FERRY.rampLengthM, FERRY.deckM - 0.03],
    };
  if (view === 'plan')
    return {
      'bow ramp, wheel side': [HALF + FERRY.rampLengthM, -1.6],
      'bow ramp, far side': [HALF + FERRY.rampLengthM, 1.6],
      'stern ramp, wheel side': [-HALF - FERRY.rampLengthM, -1.6],
      'stern ramp, far side': [-HALF - FERRY.rampLengthM, 1.6],
    };
  return {
    'hull, wheel side, lower corner': [-FERRY.beamM / 2, -FERRY.draughtM],
    'hull, far side, lower corner': [FERRY.beamM / 2, -FERRY.draughtM],
  };
}

const BLUE = { paper: '#1d4f86', line: '#e9f1f7', penPx: 2 } as const;

/** Names and sizes of the parts, as the yard wrote them down. */
const PARTS: readonly (readonly [part: string, made: string, size: string])[] = [
  ['Hull plates', 'mild steel, lapped and riveted', '6 mm · 72 rivets a strake'],
  ['Rub rail', 'elm', '130 × 90 mm'],
  ['Deck', 'larch, laid across', '54 planks, 181 × 60 mm'],
  ['Ramps', 'larch on angle iron', '2.10 × 3.20 m, hinged'],
  ['Winch house', 'lapped boards on oak posts', '1.90 × 1.60 × 2.00 m'],
  ['Roof', 'corrugated iron', '76 mm pitch'],
  ['Chain wheel', 'cast iron, eight spokes', '1.64 m across, 25 teeth'],
  ['Chain', 'wrought iron, short link', '105 mm pitch'],
  ['Rail posts', 'iron pipe', '68 mm, 1.18 m apart'],
  ['Hand ropes', 'manila, three strands', '42 mm'],
  ['Lamp mast', 'spruce', '4.10 m above water'],
  ['Fenders', 'old tyres', '0.54 m across'],
];

/** All views on one sheet of 12,000 × 8,000 pixels, with lettering that shows only from near. */
export async function shipBlueprint(): Promise<void> {
  const sheet = new Sheet(12_000, 8_000, BLUE);
  const scale = 520;
  for (let line = 1; line < 60; line += 1) {
    sheet.line(200 * line, 160, 200 * line, 7840, line % 5 === 0 ? 0.5 : 0.22);
    if (line < 40) sheet.line(160, 200 * line, 11_840, 200 * line, line % 5 === 0 ? 0.5 : 0.22);
  }
  sheet.frame(160, 160, 11_680, 7_680, 6);
  sheet.frame(220, 220, 11_560, 7_560, 2);
  sheet.view(sideView(), 4560, 2850, scale);
  sheet.view(planView(), 4560, 5600, scale);
  sheet.view(frontView(), 10_050, 2850, scale);
  sheet.level(4560 - HALF * scale, 4560 + HALF * scale, 3320, 3000, '10.40 m', 74);
  sheet.level(4560 - HALF * scale, 4560 + HALF * scale, 6860, 6600, '10.40 m', 74);
  sheet.upright(5600 + 1.85 * scale, 5600 - 1.85 * scale, 560, 1750, '3.70 m', 74);
  sheet.level(10_050 - 1.85 * scale, 10_050 + 1.85 * scale, 3320, 3000, '3.70 m', 74);
  sheet.text(420, 470, 150, 'CHAIN FERRY AT LOW SALLOW');
  sheet.text(420, 620, 64, 'General arrangement · side, plan and bow · one sheet of three');
  parts(sheet, 8450, 4000);
  titleBlock(sheet, 8450, 6850);
  rivets(sheet);
  const file = 'ferry-blueprint.png';
  await sharp(Buffer.from(sheet.svg()), { limitInputPixels: false, unlimited: true })
    .png({ palette: true, colours: 12, dither: 0, compressionLevel: 9, effort: 7 })
    .toFile(`${PICTURES}${file}`);
  await writeTruth({
    ...{ file, title: 'Ferry, blueprint', subject: 'the ferry', kind: 'drawing', mediaType: 'image/png' },
    ...{ width: 12_000, height: 8_000, dimensionsM: { ...FERRY } },
    drawing: { view: 'sheet', pixelsPerMetre: scale, tiltDeg: 0 },
    marks: [
      { name: 'frame, upper left', atM: [0, 0, 0], x: 160, y: 160, isSeen: true },
      { name: 'frame, lower right', atM: [0, 0, 0], x: 11_840, y: 7840, isSeen: true },
    ],
  } as Truth);
}

function parts(sheet: Sheet, x: number, y: number): void {
  sheet.text(x, y - 70, 74, 'PARTS');
  sheet.frame(x, y, 3250, PARTS.length * 190 + 20, 2);
  for (const [index, [part, made, size]] of PARTS.entries()) {
    const row = y + 20 + index * 190;
    if (index > 0) sheet.line(x, row, x + 3250, row, 0.6);
    sheet.text(x + 40, row + 78, 54, `${index + 1}   ${part}`);
    sheet.text(x + 40, row + 142, 34, made);
    sheet.text(x + 3210, row + 78, 40, size, 'end');
    sheet.text(
      x + 3210,
      row + 142,
      15,
      `checked against the hull at the slip, mark ${index + 31} on the frame`,
      'end',
    );
  }
}

function titleBlock(sheet: Sheet, x: number, y: number): void {
  sheet.frame(x, y, 3250, 850, 3);
  sheet.text(x + 50, y + 130, 88, 'Sallow Reach Boatyard');
  sheet.text(x + 50, y + 240, 46, 'Drawn from the hull as she lay, spring tide, by O. Fenn and the yard');
  sheet.text(x + 50, y + 330, 40, '520 pixels a metre on this sheet');
  sheet.text(
    x + 50,
    y + 420,
    22,
    'All lengths in metres unless they say millimetres. Ramps shown level; the load decides where they hang.',
  );
  for (let line = 0; line < 12; line += 1) {
    const words = `${line + 1}. ${NOTES[line % NOTES.length]}`;
    sheet.text(x + 50 + (line % 2) * 1600, y + 500 + Math.floor(line / 2) * 52, 18, words);
  }
}

const NOTES = [
  'Rivets of the upper strake were renewed after the ice; count them before you trust the old sheet.',
  'The wheel stands a hand off the centre line so that a cart can pass.',
  'Chain to be dressed with tallow twice a season, never with tar.',
  'Roof iron overlaps by two waves and a half at the ridge.',
  'Mast lamp burns paraffin; its glass is kept in the third locker.',
  'Ramp hinges are greased from below at low water.',
];

/** Numbers beside every rivet of the upper strake: too small to read unless one goes near. */
function rivets(sheet: Sheet): void {
  for (let index = 0; index < 72; index += 1) {
    const x = 4560 + (-4.95 + index * 0.1394) * 520;
    sheet.text(x, 2850 - 0.545 * 520 - 4, 9, `r${String(index + 1).padStart(2, '0')}`, 'middle');
  }
}

export async function shipDrawings(): Promise<void> {
  for (const plan of PLANS) await shipPlan(plan);
  await shipBlueprint();
}

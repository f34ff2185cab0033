import type { Note as BoardNote, Tint } from '@miradero/core/items';
import { CORRECTIONS, type DrawnOn } from './drawn.ts';

/** A row of pictures of one height, side by side; a board is set out of such rows. Lengths are board units. */
export interface Row {
  readonly x: number;
  readonly y: number;
  readonly height: number;
  readonly pictures: readonly (string | Hung)[];
}

/** A picture that does not simply hang: trimmed, mirrored, faded, turned. */
export interface Hung {
  readonly file: string;
  readonly trim?: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
  readonly flipX?: boolean;
  readonly turn?: number;
  readonly opacity?: number;
}

/** A remark is as high as is said here; with a scale of its type a note is as high as its words. */
export interface Note extends Pick<BoardNote, 'text' | 'width'>, Partial<Pick<BoardNote, 'role' | 'paper'>> {
  readonly x: number;
  readonly y: number;
  readonly height?: number;
  /** Board units of one unit of type. */
  readonly scale?: number;
}

/** What lies together: pictures by their files, notes by their place in the list. */
export interface Together {
  readonly title: string;
  readonly tint?: Tint;
  readonly holds: readonly (string | number)[];
  /** In one line, in the order in which it is listed here. */
  readonly isStrip?: boolean;
}

/** A form, as an ellipse in fractions of a picture. */
export interface FormInPicture {
  readonly of: string;
  readonly title: string;
  readonly centre: { readonly x: number; readonly y: number };
  readonly radii: { readonly x: number; readonly y: number };
}

/** What a partner said of a board, by its pictures' files. */
export interface PartnerChoices {
  readonly by: string;
  readonly yes: readonly string[];
  readonly no: readonly string[];
  readonly remarks: readonly { readonly on: string | null; readonly text: string }[];
}

export interface DemoBoard {
  readonly id: string;
  readonly name: string;
  readonly rows: readonly Row[];
  readonly notes: readonly Note[];
  /** Pages that are kept as cards: their path on the stand-in web, and a still of theirs by its file here. */
  readonly cards?: readonly {
    readonly path: string;
    readonly title: string;
    readonly site: string;
    readonly still: string;
    readonly x: number;
    readonly y: number;
  }[];
  /** Everything is settled once these are made. */
  readonly clusters?: readonly Together[];
  /** Palettes of pictures, by their files. */
  /** Lit balls of forms, by their pictures' files. */
  readonly balls?: readonly FormInPicture[];
  readonly drawn?: readonly DrawnOn[];
  readonly palettes?: readonly { readonly title: string; readonly of: string }[];
  /** A partner looked at it by a link, and handed in what they thought of it. */
  readonly choices?: PartnerChoices;
  /** It came about over some days, on which these were tried, too. */
  readonly tried?: readonly string[];
  /** The few pictures wanted for each stage of the work. */
  readonly stages?: readonly { readonly title: string; readonly holds: readonly (string | number)[] }[];
}

/** Between neighbours. */
export const GAP = 12;

/** How the ferry is built: to scale first, then round it once, then what one never remembers. */
const FORM: DemoBoard = {
  id: '5ea00001-0000-4000-8000-000000000001',
  name: 'Ferry: form',
  rows: [
    { x: 0, y: 0, height: 420, pictures: ['ferry-045-side.jpg'] },
    { x: 0, y: 432, height: 204, pictures: ['ferry-090-soft.jpg', 'ferry-180-side.jpg'] },
    { x: 0, y: 648, height: 204, pictures: ['ferry-135-side.jpg', 'ferry-270-side.jpg'] },
    { x: 658, y: 0, height: 246, pictures: ['ferry-side-elevation.png', 'ferry-front-elevation.png'] },
    { x: 658, y: 258, height: 286, pictures: ['ferry-plan.png'] },
    {
      ...{ x: 658, y: 556, height: 296 },
      pictures: [
        'chain-wheel-raking.jpg',
        'chain-wheel-edge.jpg',
        { file: 'bow-ramp-hinge.jpg', trim: { x: 0.12, y: 0, width: 0.62, height: 1 } },
      ],
    },
    { x: 1424, y: 0, height: 300, pictures: [{ file: 'hull-rust-fender.jpg', flipX: true }] },
    { x: 1424, y: 312, height: 296, pictures: ['winch-house-window.jpg'] },
    { x: 1424, y: 620, height: 232, pictures: ['ferry-blueprint.png'] },
    { x: 1030, y: 866, height: 152, pictures: ['chain-wheel-turning.mp4', 'ferry.glb', 'knot.gif'] },
  ],
  notes: [
    {
      text: 'Deck is one long plane, 0.78 m above water. Ramps break it at both ends, never level: the load decides.',
      ...{ x: 0, y: 866, width: 312, height: 152 },
    },
    {
      text: 'Plan came off a scanner askew. Straighten before measuring, scales differ on all three.',
      ...{ x: 326, y: 866, width: 312, height: 152 },
    },
    {
      text: 'Wheel: 8 spokes, rim is a shallow U. Chain meets it at the top only, a hand off the centre line.',
      ...{ x: 658, y: 866, width: 360, height: 176 },
    },
    {
      text: {
        blocks: [
          {
            runs: [
              { text: 'Do the ramps rest on the ' },
              { text: 'chain', marks: ['bold'] },
              { text: ' or on the hinge while she crosses?' },
            ],
          },
        ],
      },
      ...{ role: 'question', x: 1424, y: 984, width: 320, scale: 1.3 },
    },
  ],
  cards: [
    {
      ...{ path: '/gallery/ferries', title: 'Ferries of the lower reaches', site: 'Tidewrack Commons' },
      ...{ still: 'hull-rust-fender.jpg', x: 1424, y: 866 },
    },
  ],
  clusters: [
    {
      title: 'To scale, each in its own',
      tint: 'dusk',
      holds: [
        'ferry-side-elevation.png',
        'ferry-front-elevation.png',
        'ferry-plan.png',
        'ferry-blueprint.png',
        1,
      ],
    },
    {
      title: 'Wheel and chain',
      tint: 'sand',
      holds: [
        'chain-wheel-raking.jpg',
        'chain-wheel-edge.jpg',
        'bow-ramp-hinge.jpg',
        'chain-wheel-turning.mp4',
        2,
      ],
    },
  ],
  stages: [
    { title: 'Block in', holds: ['ferry-045-side.jpg', 'ferry-side-elevation.png', 'ferry-plan.png'] },
    {
      title: 'Rust and paint',
      holds: ['hull-rust-fender.jpg', 'winch-house-window.jpg', 'ferry-090-soft.jpg'],
    },
    { title: 'The wheel alone', holds: ['chain-wheel-raking.jpg', 'chain-wheel-edge.jpg'] },
  ],
};

const LIGHT: DemoBoard = {
  id: '5ea00001-0000-4000-8000-000000000002',
  name: 'Light on the marsh',
  rows: [
    {
      x: 0,
      y: 0,
      height: 330,
      pictures: ['dawn-first-crossing.jpg', 'fog-closing-in.jpg', 'last-crossing.jpg'],
    },
    {
      ...{ x: 0, y: 342, height: 214 },
      pictures: [
        'sky-0510-dawn.webp',
        'sky-0830-morning.webp',
        'sky-1240-noon.webp',
        'sky-1730-rain-coming.webp',
        'sky-2015-last-light.webp',
      ],
    },
    {
      ...{ x: 0, y: 568, height: 262 },
      pictures: [
        'reed-channel-dawn.jpg',
        'reed-channel-noon.jpg',
        'winch-house-dusk.jpg',
        'reed-channel-fog.jpg',
      ],
    },
    {
      x: 0,
      y: 842,
      height: 196,
      pictures: ['ferry-045-dusk.jpg', 'ferry-090-dusk.jpg', 'ferry-225-dusk.jpg'],
    },
  ],
  notes: [
    {
      text: 'Dawn: value range only 4–8. The hull is the darkest thing and still not black.',
      ...{ x: 936, y: 842, width: 276, height: 104 },
    },
    {
      text: 'Fog takes the reeds first, the mast next; the lamp keeps its edge longest.',
      ...{ x: 936, y: 958, width: 276, height: 104 },
    },
    {
      text: 'Last crossing: sky warm, water one step darker than the sky it mirrors.',
      ...{ x: 1226, y: 842, width: 300, height: 124 },
    },
  ],
  tried: ['mast-lamp-dusk.jpg', 'storm-lantern-dusk.jpg'],
  palettes: [
    { title: 'Last light on the water', of: 'last-crossing.jpg' },
    { title: 'Reeds at noon', of: 'reed-channel-noon.jpg' },
  ],
  clusters: [
    {
      title: 'The sky, hour by hour',
      tint: 'slate',
      isStrip: true,
      holds: [
        'sky-0510-dawn.webp',
        'sky-0830-morning.webp',
        'sky-1240-noon.webp',
        'sky-1730-rain-coming.webp',
        'sky-2015-last-light.webp',
      ],
    },
  ],
};

const ODRA: DemoBoard = {
  id: '5ea00001-0000-4000-8000-000000000003',
  name: 'Odra: coat and hands',
  balls: [
    {
      ...{ of: 'head-quarter-side.jpg', title: 'Light on the head' },
      ...{ centre: { x: 0.5, y: 0.4 }, radii: { x: 0.25, y: 0.25 } },
    },
  ],
  rows: [
    {
      ...{ x: 0, y: 0, height: 400 },
      pictures: ['head-quarter-side.jpg', 'head-front-soft.jpg', 'head-profile-raking.jpg'],
    },
    {
      x: 0,
      y: 412,
      height: 246,
      pictures: ['head-below-back.webp', 'head-above-soft.webp', 'head-front-back.jpg', 'mannequin-11.jpg'],
    },
    {
      ...{ x: 948, y: 0, height: 322 },
      pictures: ['mannequin-02.jpg', 'mannequin-05.jpg', 'mannequin-13.jpg'],
    },
    {
      ...{ x: 948, y: 334, height: 324 },
      pictures: ['mannequin-10.jpg', { file: 'mannequin-16.jpg', flipX: true }, 'mannequin-09.jpg'],
    },
    {
      x: 0,
      y: 670,
      height: 250,
      pictures: ['surface-oilskin.webp', 'surface-rope.webp', 'surface-wet-planks.webp'],
    },
  ],
  notes: [
    {
      text: 'Odra is broad, not tall: 7 heads. The coat hangs from the shoulders and never touches the waist.',
      ...{ x: 1188, y: 670, width: 250, height: 119 },
    },
    {
      text: 'Oilskin: hard highlights on the fold, brown in the cracks. No folds below the knee.',
      ...{ x: 1188, y: 801, width: 250, height: 119 },
    },
    {
      text: 'Hands haul with the whole back. Weight first, then the fingers.',
      ...{ x: 1452, y: 670, width: 218, height: 119 },
    },
    {
      text: {
        blocks: [
          { list: 'check', isDone: true, runs: [{ text: 'a hand on the chain, wet' }] },
          { list: 'check', runs: [{ text: 'the coat from behind, hood up' }] },
        ],
      },
      ...{ role: 'todo', x: 1452, y: 801, width: 218, scale: 0.85 },
    },
    {
      text: 'Broad, and heavy with water',
      ...{ role: 'title', x: 0, y: -140, width: 900, scale: 2 },
    },
  ],
  choices: {
    by: 'Mara Quill',
    yes: ['head-quarter-side.jpg', 'mannequin-05.jpg', 'surface-oilskin.webp'],
    no: ['mannequin-09.jpg', 'head-front-back.jpg'],
    remarks: [
      {
        on: 'head-quarter-side.jpg',
        text: 'This light for the cover: the cap must throw a shadow down to the nose.',
      },
      { on: 'mannequin-09.jpg', text: 'Too light on her feet.' },
      { on: null, text: 'More of her hands, please. They are half of who she is.' },
    ],
  },
};

const PAGE: DemoBoard = {
  id: '5ea00001-0000-4000-8000-000000000004',
  name: 'Page 7 in progress',
  drawn: CORRECTIONS,
  rows: [
    { x: 0, y: 0, height: 430, pictures: ['page-7-too-wide.png', 'ferry-045-soft.jpg'] },
    {
      x: 0,
      y: 442,
      height: 242,
      pictures: ['page-7-leaning.png', 'page-7-too-dark.png', 'page-7-right.png'],
    },
    { x: 1348, y: 0, height: 430, pictures: ['storm-lantern-dusk.jpg'] },
    { x: 1348, y: 442, height: 242, pictures: ['mast-lamp-dusk.jpg'] },
    { x: 0, y: 696, height: 210, pictures: ['rail-rope.jpg', 'deck-planks-wet.jpg', 'winch-house-door.jpg'] },
  ],
  notes: [
    {
      text: 'Page 7, first try: the hull reads too long. Check against the view before inking.',
      ...{ x: 684, y: 696, width: 270, height: 99 },
    },
    {
      text: 'Second try leans. Third sits, but all of it is too dark: compare values, not by eye.',
      ...{ x: 684, y: 807, width: 270, height: 124 },
    },
    {
      text: 'The glass is the lightest thing on the page. Hull goes to value 3, never black; reeds melt first.',
      ...{ x: 1153, y: 442, width: 183, height: 112 },
    },
    {
      text: {
        blocks: [
          { runs: [{ text: 'Before the ink', marks: ['bold'] }] },
          { list: 'check', isDone: true, runs: [{ text: 'hull shorter by a tenth' }] },
          { list: 'check', isDone: true, runs: [{ text: 'mast upright' }] },
          {
            list: 'check',
            runs: [{ text: 'water one step lighter, ' }, { text: 'reeds first', marks: ['italic'] }],
          },
        ],
      },
      ...{ role: 'todo', paper: 'sand', x: 966, y: 696, width: 300, scale: 1.2 },
    },
  ],
  clusters: [
    {
      title: 'Page 7, the newest first',
      tint: 'marsh',
      isStrip: true,
      holds: ['page-7-right.png', 'page-7-too-dark.png', 'page-7-leaning.png', 1, 'page-7-too-wide.png', 0],
    },
    {
      title: 'The lantern is the lightest',
      tint: 'sand',
      holds: ['storm-lantern-dusk.jpg', 'mast-lamp-dusk.jpg', 2],
    },
  ],
};

/** What came in lately and stands nowhere yet: from the camera, and once more what is here already. */
export const LANDED: readonly string[] = [
  ...[
    'IMG_0412.JPG',
    'DSC00731.JPG',
    'P1080266.JPG',
    'IMG_2077.HEIC',
    'surface-rust.webp',
    'surface-mud.webp',
  ],
  ...['barrels-and-crates.jpg', 'lantern-060.jpg', 'chain-wheel-edge-mirrored.jpg', 'knot.webp'],
];

/** The boards of the scenario, in the order in which they are loaded. */
export const BOARDS: readonly DemoBoard[] = [FORM, LIGHT, ODRA, PAGE];

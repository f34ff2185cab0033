import { readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Pile, Purpose, PurposeName, PutSubject, View } from '@miradero/core/schema';
import { BOARDS, LANDED } from './boards.ts';
import type { Truth } from './truth/truth.ts';

/** Everything that the demo's people have said of their pictures: subjects with parts, purposes, tags, piles, views. */
const PICTURES = fileURLToPath(new URL('./pictures/', import.meta.url));

const id = (number: number) => `5ea10001-0000-4000-8000-${String(number).padStart(12, '0')}`;

export interface DemoSubject extends PutSubject {
  readonly id: string;
  readonly name: string;
  readonly parts: NonNullable<PutSubject['parts']>;
  /** Files that show it, and which of its parts. */
  readonly shows: readonly (readonly [RegExp, readonly string[]])[];
}

const part = (number: number, name: string, inner: readonly (readonly [number, string])[] = []) => ({
  id: id(number),
  name,
  parts: inner.map(([at, words]) => ({ id: id(at), name: words })),
});

export const SUBJECTS: readonly DemoSubject[] = [
  {
    id: id(100),
    name: 'The ferry',
    parts: [
      part(101, 'hull', [
        [102, 'plates and rust'],
        [103, 'rub rail'],
      ]),
      part(104, 'ramps'),
      part(105, 'winch house', [[106, 'door and windows']]),
      part(107, 'chain wheel'),
      part(108, 'lamp mast'),
      part(109, 'deck and rails'),
      part(110, 'underside'),
    ],
    shows: [
      [/^ferry-\d{3}-(soft|side|dusk)\.jpg$/, [id(100)]],
      [/^ferry-(plan|side-elevation|front-elevation|blueprint)\.png$/, [id(100), id(101), id(104)]],
      [/^ferry\.glb$/, [id(100)]],
      [/^ferry-side-elevation\.png$/, [id(100), id(101), id(104), id(105), id(107)]],
      [/^chain-wheel-/, [id(107)]],
      [/^hull-rust-fender\.jpg$/, [id(102)]],
      [/^bow-ramp-hinge\.jpg$/, [id(104)]],
      [/^winch-house-(window|door)\.jpg$/, [id(106)]],
      [/^mast-lamp-dusk\.jpg$/, [id(108)]],
      [/^(deck-planks-wet|rail-rope|barrels-and-crates)\.jpg$/, [id(109)]],
    ],
  },
  {
    id: id(200),
    name: 'Odra Fenn, the ferry keeper',
    parts: [
      part(201, 'head'),
      part(202, 'oilskin coat'),
      part(203, 'flat cap'),
      part(204, 'heavy hands'),
      part(205, 'stance'),
    ],
    shows: [
      [/^head-(above|below|front|profile|quarter)-(soft|side|raking|back)\.(jpg|webp)$/, [id(201)]],
      [/^surface-oilskin\.webp$/, [id(202)]],
      [/^mannequin-\d\d\.jpg$/, [id(205)]],
    ],
  },
  {
    id: id(300),
    name: 'The storm lantern',
    parts: [part(301, 'glass and flame'), part(302, 'bail and cap'), part(303, 'tank')],
    shows: [
      [/^lantern-\d{3}\.jpg$/, [id(300)]],
      [/^storm-lantern-glass\.jpg$/, [id(301)]],
      [/^storm-lantern-dusk\.jpg$/, [id(300)]],
    ],
  },
  {
    id: id(400),
    name: 'The winch house at Low Sallow',
    parts: [part(401, 'slip'), part(402, 'gate and winch'), part(403, 'roof')],
    shows: [
      [/^winch-house-slip\.jpg$/, [id(401)]],
      [/^winch-house-gate\.jpg$/, [id(402)]],
      [/^winch-house-dusk\.jpg$/, [id(400)]],
      [/^surface-roof-iron\.webp$/, [id(403)]],
    ],
  },
  {
    id: id(500),
    name: 'The reed channel',
    parts: [part(501, 'reeds'), part(502, 'water'), part(503, 'mud banks')],
    shows: [
      [/^reed-channel-(dawn|noon|fog)\.jpg$/, [id(500)]],
      [/^surface-reed\.webp$/, [id(501)]],
      [/^surface-mud\.webp$/, [id(503)]],
      [/^sky-.*\.webp$/, [id(502)]],
    ],
  },
];

/** Palettes on the shelf: of which picture, and of which subject. */
export const SHELF = [
  {
    ...{ id: id(601), title: 'The head in light from the side', of: 'head-quarter-side.jpg' },
    subject: id(200),
  },
  { id: id(602), title: 'The ferry at dusk', of: 'ferry-090-dusk.jpg', subject: id(100) },
] as const;

/** A picture stands nearer than this, metres from its subject, or farther than that. */
const NEAR_M = 5;
const FAR_M = 14;

const AIMS: readonly (readonly [RegExp, readonly PurposeName[]])[] = [
  [/^ferry-\d{3}-side/, ['form', 'viewpoint']],
  [/^ferry-\d{3}-soft/, ['form', 'colour']],
  [/-dusk|dawn|fog-|last-crossing|^sky-/, ['light', 'mood']],
  [/^ferry-(plan|side-elev|front-elev|blue)/, ['proportion']],
  [/^surface-|rust|planks|oilskin/, ['surface']],
  [/^chain-wheel|hinge|window|door|rail-rope/, ['detail']],
  [/^head-.*raking/, ['form', 'light']],
  [/^head-/, ['form']],
  [/^mannequin-/, ['pose']],
  [/^knot/, ['method']],
];

const TAGS: readonly (readonly [RegExp, readonly string[]])[] = [
  [/dusk|last-crossing|2015/, ['dusk']],
  [/dawn|0510/, ['dawn']],
  [/fog/, ['fog']],
  [/rust|surface-roof-iron/, ['iron']],
  [/planks|wet/, ['wet']],
  [/rope|knot/, ['rope']],
  [/^page-7/, ['page 7']],
];
export const TAG_COLOURS = { dusk: '#8a5a83', dawn: '#c98b4a', fog: '#8d9a9e', iron: '#8c4a2f' } as const;

const firstOf = <T>(rows: readonly (readonly [RegExp, T])[], file: string): T | undefined =>
  rows.find(([pattern]) => pattern.test(file))?.[1];

/** What a person sees in the picture: from where, in which light, how far away. Told by the truth, as their dials would be set. */
function viewOf({ camera, light }: Extract<Truth, { camera?: unknown }>): View | undefined {
  if (!camera) return undefined;
  const azimuth = ((((camera.azimuthDeg + 180) % 360) + 360) % 360) - 180;
  return {
    azimuthDeg: Math.round(azimuth),
    elevationDeg: Math.round(camera.elevationDeg),
    lightAzimuthDeg: light ? Math.round(light.fromCameraDeg) : null,
    lightElevationDeg: light ? Math.round(light.elevationDeg) : null,
    distance: camera.distanceM < NEAR_M ? 'near' : camera.distanceM > FAR_M ? 'far' : 'middle',
  };
}

export interface Said {
  readonly parts: string[];
  readonly views: Record<string, View>;
  readonly purposes: Purpose[];
  readonly tags: string[];
  readonly pile: Pile;
  readonly isToScale: boolean;
  readonly useMark: 'look' | 'work' | null;
}

/** What was said of parts and points of pictures. */
const LABELS: Readonly<Record<string, readonly Purpose[]>> = {
  'bow-ramp-hinge.jpg': [
    {
      ...{ purpose: 'form', isNot: false, word: 'chain lies on the roller' },
      region: { x: 0.3, y: 0.24, width: 0.3, height: 0.3 },
    },
    {
      ...{ purpose: 'surface', isNot: true, word: 'this much rust' },
      region: { x: 0.5, y: 0.72, width: 0, height: 0 },
    },
  ],
  'chain-wheel-raking.jpg': [
    {
      ...{ purpose: 'detail', isNot: false, word: 'rivets like these' },
      region: { x: 0.36, y: 0.34, width: 0.28, height: 0.3 },
    },
  ],
  'winch-house-window.jpg': [
    {
      ...{ purpose: 'surface', isNot: false, word: 'paint flakes along the grain' },
      region: { x: 0.06, y: 0.08, width: 0.3, height: 0.34 },
    },
  ],
};

/** Pictures of which nobody said the view yet. */
const WITHOUT_VIEW = /^(ferry-(225|270|315)-soft|mannequin|surface|sky|ferry-.*\.png|lantern-(210|240|270))/;

/** What was said of a file of the demo; nothing of what came in just now. */
export function saidOf(file: string, truth: Truth): Said | undefined {
  if (LANDED.includes(file)) return undefined;
  const serves = SUBJECTS.flatMap((subject) => {
    // Later lines say it better.
    const shows = subject.shows.filter(([pattern]) => pattern.test(file)).at(-1);
    return shows ? [{ subject: subject.id, parts: shows[1] }] : [];
  });
  const view = WITHOUT_VIEW.test(file) ? undefined : viewOf(truth);
  return {
    parts: serves.flatMap(({ parts }) => [...parts]),
    views: view ? Object.fromEntries(serves.map(({ subject }) => [subject, view])) : {},
    purposes: [
      ...(firstOf(AIMS, file) ?? []).map((purpose) => ({ purpose, isNot: false, region: null })),
      ...(LABELS[file] ?? []),
    ],
    tags: [...(firstOf(TAGS, file) ?? [])],
    pile: /^(ferry-045-side|page-7-right|chain-wheel-raking|last-crossing|dawn)/.test(file)
      ? 'now'
      : /recompressed|rescaled/.test(file)
        ? 'no'
        : /cropped|mirrored|poster|16-bit|p3/.test(file)
          ? 'maybe'
          : null,
    isToScale: /^ferry-(plan|side-elevation|front-elevation|blueprint)/.test(file),
    useMark: /^(surface|sky)/.test(file) ? 'work' : /^(head|mannequin)/.test(file) ? 'look' : null,
  };
}

/** Files that stand on no board: they are found in the library. */
export function filesInLibrary(): string[] {
  const hung = new Set(
    BOARDS.flatMap(({ rows }) =>
      rows.flatMap(({ pictures }) => pictures.map((one) => (typeof one === 'string' ? one : one.file))),
    ),
  );
  return readdirSync(PICTURES)
    .filter((file) => !/\.(truth\.json|poster\.webp)$/.test(file))
    .filter((file) => !hung.has(file) && !LANDED.includes(file));
}

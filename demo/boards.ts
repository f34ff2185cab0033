/** A board of the demo; positions are of top left corners, board units. */
export interface DemoBoard {
  readonly id: string;
  readonly name: string;
  readonly placements: readonly {
    readonly file: string;
    readonly name: string;
    readonly x: number;
    readonly y: number;
    readonly width: number;
    readonly trim?: {
      readonly x: number;
      readonly y: number;
      readonly width: number;
      readonly height: number;
    };
    readonly flipX?: boolean;
  }[];
  readonly notes: readonly {
    readonly text: string;
    readonly x: number;
    readonly y: number;
    readonly width: number;
    readonly height: number;
  }[];
}

/** The board that the first part of the scenario needs: how the ferry is built, and the light it stands in. */
export const BOARDS: readonly DemoBoard[] = [
  {
    id: '5ea00001-0000-4000-8000-000000000001',
    name: 'Ferry: form',
    placements: [
      {
        file: 'ferry-quarter-from-above.jpg',
        name: 'Ferry, winch side from above',
        x: 0,
        y: 0,
        width: 560,
      },
      {
        file: 'chain-wheel-raking.jpg',
        name: 'Chain wheel, raking light',
        x: 572,
        y: 0,
        width: 291,
      },
      {
        file: 'dawn-fog-wide.jpg',
        name: 'Dawn, fog coming in',
        x: 0,
        y: 376,
        width: 560,
        trim: { x: 0, y: 0.06, width: 1, height: 0.78 },
      },
      {
        file: 'storm-lantern-dusk.jpg',
        name: 'Storm lantern at dusk',
        x: 875,
        y: 0,
        width: 200,
      },
    ],
    notes: [
      {
        text: 'Deck is one long plane, 0.75 m above water. Ramps break it at both ends, never level: the load decides.',
        x: 572,
        y: 376,
        width: 240,
        height: 120,
      },
      {
        text: 'Page 7: the glass is the lightest thing in the picture. Hull goes to value 3, never black; reeds melt first.',
        x: 875,
        y: 262,
        width: 200,
        height: 100,
      },
    ],
  },
];

import type { Pose } from '../camera.ts';
import type { Light } from '../light.ts';
import type { SceneName } from '../scenes.ts';

export type Subject =
  | 'the ferry'
  | 'the storm lantern'
  | 'a sculpted head'
  | 'the mannequin'
  | 'surfaces'
  | 'sky and water'
  | 'the winch house at Low Sallow'
  | 'the reed channel'
  | 'the knot';

/** One picture to render. */
export interface Shot {
  /** Of its files, without ending: small letters and hyphens. */
  readonly id: string;
  readonly title: string;
  readonly subject: Subject;
  readonly scene: SceneName;
  /** What a scene is told: a pose, a turn of the wheel; JSON. */
  readonly state?: Readonly<Record<string, number | string>>;
  readonly pose: Pose;
  readonly light: Light;
  readonly width: number;
  readonly height: number;
  /** Greatest number of rays a pixel. */
  readonly samples: number;
  /** Rounds of smoothing of matt light. */
  readonly rounds: number;
}

export const LARGE = { width: 4000, height: 2600, samples: 3, rounds: 3 } as const;
export const LYING = { width: 1600, height: 1040, samples: 4, rounds: 3 } as const;
export const STANDING = { width: 1200, height: 1600, samples: 4, rounds: 3 } as const;
export const SMALL = { width: 960, height: 1280, samples: 4, rounds: 3 } as const;

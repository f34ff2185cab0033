import { FERRY_SHOTS } from './ferry.ts';
import { MARSH_SHOTS } from './marsh.ts';
import { KNOT_SHOTS, WHEEL_SHOTS } from './motion.ts';
import type { Shot } from './shot.ts';
import { STUDIO_SHOTS } from './studio.ts';

/** What is shipped as a picture. */
export const STILLS: readonly Shot[] = [...FERRY_SHOTS, ...MARSH_SHOTS, ...STUDIO_SHOTS];

/** Everything that is rendered, in the order in which the darkroom takes it. */
export const SHOTS: readonly Shot[] = [...STILLS, ...KNOT_SHOTS, ...WHEEL_SHOTS];

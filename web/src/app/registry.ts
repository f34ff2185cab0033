import { BOARD_COMMANDS, BOARD_FINDERS } from '../boards/commands.ts';
import { COLOUR_COMMANDS } from '../colour/commands.ts';
import { Registry } from '../commands/index.ts';
import { DESK_COMMANDS } from '../desk/index.ts';
import { EASEL_COMMANDS } from '../easel/commands.ts';
import { EXPORT_COMMANDS } from '../exporting/commands.ts';
import { GATHER_COMMANDS, GATHER_FINDERS, LANDING_COMMANDS } from '../gather/commands.ts';
import { HISTORY_COMMANDS } from '../history/commands.ts';
import { ITEM_COMMANDS } from '../items/index.ts';
import { LAYOUT_COMMANDS } from '../layouts/commands.ts';
import { LIBRARY_COMMANDS, LIBRARY_FINDERS } from '../library/commands.ts';
import { LIGHT_COMMANDS } from '../light/index.ts';
import { LOOKING_COMMANDS } from '../looking/commands.ts';
import { MARK_COMMANDS } from '../marks/index.ts';
import { MOTION_COMMANDS } from '../motion/commands.ts';
import { PERCH_COMMANDS } from '../perch/commands.ts';
import { STUDY_COMMANDS } from '../study/commands.ts';
import { SUBJECT_COMMANDS, SUBJECT_FINDERS } from '../subjects/commands.ts';
import { TOOL_COMMANDS } from '../tools/index.ts';
import { TURNING_COMMANDS } from '../turning/commands.ts';
import { ANYWHERE_COMMANDS } from './anywhere.ts';

/** Everything that can be done and found, of every room: a new command is a line in its room's table. */
export const REGISTRY = new Registry(
  [
    // Where the perch has the keyboard, its own keys come before those of the board it shows.
    ...PERCH_COMMANDS,
    ...ANYWHERE_COMMANDS,
    ...DESK_COMMANDS,
    ...TOOL_COMMANDS,
    ...ITEM_COMMANDS,
    ...LAYOUT_COMMANDS,
    ...LOOKING_COMMANDS,
    ...COLOUR_COMMANDS,
    ...STUDY_COMMANDS,
    ...LIGHT_COMMANDS,
    ...MARK_COMMANDS,
    ...MOTION_COMMANDS,
    ...TURNING_COMMANDS,
    ...EASEL_COMMANDS,
    ...EXPORT_COMMANDS,
    ...HISTORY_COMMANDS,
    ...GATHER_COMMANDS,
    ...BOARD_COMMANDS,
    ...LIBRARY_COMMANDS,
    ...LANDING_COMMANDS,
    ...SUBJECT_COMMANDS,
  ],
  [...BOARD_FINDERS, ...LIBRARY_FINDERS, ...SUBJECT_FINDERS, ...GATHER_FINDERS],
);

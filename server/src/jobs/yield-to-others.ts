import { writeFileSync } from 'node:fs';
import { constants, setPriority } from 'node:os';

/**
 * Lets every other program of this computer go first. Linux shares processors out among sessions before it looks at processes:
 * a patient one still takes half of what a browser of another session would need, so its session is made patient, too.
 * Source: sched(7), *The autogroup feature*; what the process has to be is the first of its session.
 */
export function yieldToOthers(): void {
  setPriority(constants.priority.PRIORITY_LOW);
  try {
    writeFileSync('/proc/self/autogroup', String(constants.priority.PRIORITY_LOW));
  } catch {
    // Another system, or a kernel that shares out otherwise.
  }
}

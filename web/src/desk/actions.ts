import type { Desk } from './desk.ts';

/** One thing that can be done, by key, by the sill, and later by name. */
export interface Action {
  readonly id: string;
  readonly label: string;
  /** tinykeys notation; several ways are alternatives. */
  readonly keys: readonly string[];
  /** How the key is written on the sill. */
  readonly keyLabel: string;
  readonly run: (desk: Desk) => void;
}

const nudge = (id: string, key: string, x: number, y: number): Action[] => [
  { id, label: 'nudge', keys: [key], keyLabel: 'arrows', run: (desk) => desk.move({ x, y }) },
  {
    id: `${id}-far`,
    label: 'nudge far',
    keys: [`Shift+${key}`],
    keyLabel: 'Shift arrows',
    run: (desk) => desk.move({ x: 10 * x, y: 10 * y }),
  },
];

const chooseFiles = () => document.querySelector<HTMLInputElement>('#choose-files')?.click();
const perch = () => document.querySelector<HTMLButtonElement>('#open-perch')?.click();

/** Every action of a board. */
export const ACTIONS: readonly Action[] = [
  { id: 'come-close', label: 'come close', keys: ['f'], keyLabel: 'F', run: (desk) => desk.comeClose() },
  {
    id: 'whole-board',
    label: 'whole board',
    keys: ['0'],
    keyLabel: '0',
    run: (desk) => desk.view?.showWholeBoard(),
  },
  { id: 'trim', label: 'trim', keys: ['t'], keyLabel: 'T', run: (desk) => desk.startTrim() },
  {
    id: 'untrim',
    label: 'whole picture',
    keys: ['Shift+T'],
    keyLabel: 'Shift T',
    run: (desk) => desk.untrim(),
  },
  { id: 'flip', label: 'flip', keys: ['x'], keyLabel: 'X', run: (desk) => desk.flip('flipX') },
  {
    id: 'upside-down',
    label: 'upside down',
    keys: ['Shift+X'],
    keyLabel: 'Shift X',
    run: (desk) => desk.flip('flipY'),
  },
  { id: 'raise', label: 'raise', keys: ['PageUp'], keyLabel: 'PgUp', run: (desk) => desk.restack('raise') },
  { id: 'lower', label: 'lower', keys: ['PageDown'], keyLabel: 'PgDn', run: (desk) => desk.restack('lower') },
  { id: 'duplicate', label: 'duplicate', keys: ['b'], keyLabel: 'B', run: (desk) => desk.duplicate() },
  {
    id: 'remove',
    label: 'remove',
    keys: ['Delete', 'Backspace'],
    keyLabel: 'Del',
    run: (desk) => desk.remove(),
  },
  { id: 'label', label: 'wall label', keys: ['i'], keyLabel: 'I', run: (desk) => desk.toggleLabel() },
  { id: 'write', label: 'write a note', keys: ['w'], keyLabel: 'W', run: (desk) => desk.startNote() },
  {
    id: 'edit-note',
    label: 'edit',
    keys: ['Enter'],
    keyLabel: 'Enter',
    run: (desk) => {
      const note = desk.targets.find((item) => item.kind === 'note');
      if (note?.kind === 'note') desk.editNote(note);
      else if (desk.mode.kind === 'trim') desk.leaveMode();
    },
  },
  { id: 'undo', label: 'undo', keys: ['$mod+z'], keyLabel: 'Ctrl Z', run: (desk) => desk.undo() },
  { id: 'redo', label: 'redo', keys: ['$mod+Shift+Z'], keyLabel: 'Shift Ctrl Z', run: (desk) => desk.redo() },
  {
    id: 'select-all',
    label: 'select all',
    keys: ['$mod+a'],
    keyLabel: 'Ctrl A',
    run: (desk) => desk.selectAll(),
  },
  { id: 'escape', label: 'leave', keys: ['Escape'], keyLabel: 'Esc', run: (desk) => desk.escape() },
  { id: 'choose-files', label: 'choose files', keys: ['c'], keyLabel: 'C', run: chooseFiles },
  { id: 'perch', label: 'perch', keys: ['p'], keyLabel: 'P', run: perch },
  {
    id: 'hide-controls',
    label: 'hide controls',
    keys: ['.'],
    keyLabel: '.',
    run: (desk) => desk.toggleControls(),
  },
  ...nudge('nudge-left', 'ArrowLeft', -1, 0),
  ...nudge('nudge-right', 'ArrowRight', 1, 0),
  ...nudge('nudge-up', 'ArrowUp', 0, -1),
  ...nudge('nudge-down', 'ArrowDown', 0, 1),
];

export const actionOf = (id: string): Action => {
  const action = ACTIONS.find((known) => known.id === id);
  if (!action) throw new RangeError(`no such action: ${id}`);
  return action;
};

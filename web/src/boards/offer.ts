import type { Desk } from '../desk/index.ts';

const FOR_PICTURE = [
  ...['come-close', 'trim', 'flip', 'turn', 'fade', 'label'],
  ...['as-it-came', 'duplicate', 'remove', 'raise', 'lower'],
];
const FOR_MANY = ['fit-selection', 'flip', 'turn', 'fade', 'raise', 'lower', 'duplicate', 'remove'];
const FOR_NOTE = ['edit-note', 'come-close', 'turn', 'raise', 'duplicate', 'remove', 'label'];
const FOR_TRIM = ['untrim', 'escape'];
const FOR_NOTHING = [
  ...['choose-files', 'paste', 'by-address', 'grab', 'camera', 'write'],
  ...['whole-board', 'palette', 'keys'],
];

/** What can be done right now: a title for what it is done to, actions, a word on what the hand may do. */
export interface Offer {
  readonly title: string;
  readonly ids: readonly string[];
  readonly hint?: string;
}

const HELD_HINTS = {
  pan: 'Drag to move the view.',
  zoom: 'Drag right or up to come closer.',
  turn: 'Drag around the picture; Shift keeps to steps of 15°.',
  fade: 'Roll the wheel.',
} as const;

export function offerOf(desk: Desk): Offer {
  const { mode, selected, held } = desk;
  if (held) return { title: '', ids: [], hint: HELD_HINTS[held] };
  if (mode.kind === 'trim')
    return { title: 'Trim', ids: FOR_TRIM, hint: 'Drag across the picture, or move an edge.' };
  if (mode.kind === 'write')
    return { title: 'Note', ids: [], hint: 'Esc or a click elsewhere ends writing.' };
  const [only] = selected;
  if (selected.length > 1) return { title: `${selected.length} selected`, ids: FOR_MANY };
  if (only?.kind === 'note') return { title: 'Note', ids: FOR_NOTE };
  if (only?.kind === 'placement') {
    return { title: desk.sync.shelf.get(only.picture)?.name ?? 'Picture', ids: FOR_PICTURE };
  }
  return { title: '', ids: FOR_NOTHING, hint: 'Drop files anywhere.' };
}

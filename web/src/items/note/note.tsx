import type { Note } from '@miradero/core/items';
import { hasForeign } from '@miradero/core/typesetting';
import { type Desk, inGroup } from '../../desk/index.ts';
import type { KindInInterface } from '../kind.ts';
import { Row } from '../label-row.tsx';
import { PlainLabel } from '../plain-label.tsx';
import { edit, startNote } from './writing.ts';

/** Letters that the shipped serif lacks look another way on other computers: a note that has some says so. */
function NoteLabel({ desk, item }: { desk: Desk; item: Note }) {
  return (
    <PlainLabel desk={desk} item={item} title="Note">
      {hasForeign(item.text) && <Row name="Letters">some in this computer’s own fonts</Row>}
    </PlainLabel>
  );
}

export const noteInInterface: KindInInterface<Note> = {
  nameOf: () => undefined,
  offers: [
    'edit-note',
    'come-close',
    'turn',
    'raise',
    'duplicate',
    'remove',
    'label',
    'spare',
    'fix',
    'cluster',
  ],
  Label: NoteLabel,
  making: ['write'],
  open: edit,
  actions: inGroup('Note', [['write', 'write a note', 'w', startNote]]),
};

import { wrapTo } from '@miradero/core/board';
import {
  NOTE_ROLES,
  NOTE_WIDTHS,
  type Note,
  noteWith,
  pressedOfNote,
  scaleOfNote,
} from '@miradero/core/items';
import { linksOf, plainOf, withCheck, wordsOfBlock } from '@miradero/core/text';
import { hasForeign } from '@miradero/core/typesetting';
import { type Desk, inGroup } from '../../desk/index.ts';
import { NumberField } from '../../shell/index.ts';
import type { KindInInterface } from '../kind.ts';
import { DATE, Row } from '../label-row.tsx';
import { PlainLabel } from '../plain-label.tsx';
import { formatOfNote, NOTE_FORMATTING } from './formatting.ts';
import { loadRichEditor } from './rich.ts';
import { edit, startNote } from './writing.ts';

const check = (desk: Desk, note: Note, block: number, isDone: boolean): void =>
  desk.session.commit([{ item: note.id, set: { text: withCheck(note.text, block, isDone) } }]);

/** Entries to be checked off, for those who do not see or press them on the board. */
function Checks({ desk, note }: { desk: Desk; note: Note }) {
  if (typeof note.text === 'string') return null;
  return note.text.blocks.map((block, index) =>
    block.list === 'check' ? (
      <label key={index} className="flex items-baseline gap-2 border-line border-t py-[5px]">
        <input
          type="checkbox"
          checked={block.isDone === true}
          onChange={(event) => check(desk, note, index, event.target.checked)}
        />
        <span className="min-w-0 break-words">
          <bdi>{wordsOfBlock(block) || 'without words'}</bdi>
        </span>
      </label>
    ) : null,
  );
}

/** How a note is set, and what in it can be pressed. Letters that the shipped serif lacks look another way on other computers: a note that has some says so. */
function NoteLabel({ desk, item: note }: { desk: Desk; item: Note }) {
  const scale = scaleOfNote(note);
  const { fontSize, words } = NOTE_ROLES[note.role ?? 'remark'];
  const refuse = (why: string) => desk.say(why);
  const resize = (size: number) => {
    const to = size / fontSize;
    const set = noteWith(note, { scale: to, width: (note.width / scale) * to });
    desk.session.commit([{ item: note.id, set }]);
  };
  return (
    <>
      <PlainLabel desk={desk} item={note} title="Note">
        <Row name="For">{words}</Row>
        <Row name="Type">
          <NumberField
            label="Size of the type, board units"
            value={fontSize * scale}
            digits={1}
            least={0.5}
            most={10_000}
            onRefuse={refuse}
            onChange={resize}
          />
        </Row>
        <Row name="Lines wrap at">
          <NumberField
            label="Width at which lines wrap, board units"
            value={note.width}
            least={Math.ceil(NOTE_WIDTHS.least * scale)}
            most={Math.floor(NOTE_WIDTHS.most * scale)}
            onRefuse={refuse}
            onChange={(to) => {
              const operation = wrapTo(note, to, 1);
              if (operation) desk.session.commit([operation]);
            }}
          />
        </Row>
        {note.begunAt !== undefined && <Row name="Begun">{DATE.format(new Date(note.begunAt))}</Row>}
        {hasForeign(plainOf(note.text)) && <Row name="Letters">some in this computer’s own fonts</Row>}
      </PlainLabel>
      <div className="text-[13px]">
        <Checks desk={desk} note={note} />
        {linksOf(note.text).map(({ address, words: said }, index) => (
          <a
            key={index}
            href={address}
            title={address}
            target="_blank"
            rel="noopener noreferrer"
            className="block truncate border-line border-t py-[5px] underline decoration-1 underline-offset-3"
          >
            <bdi>{said}</bdi>
          </a>
        ))}
      </div>
    </>
  );
}

export const noteInInterface: KindInInterface<Note> = {
  nameOf: () => undefined,
  offers: [
    ...['edit-note', 'written-as', 'come-close', 'turn', 'raise', 'duplicate', 'remove', 'label'],
    ...['spare', 'fix', 'cluster'],
  ],
  Label: NoteLabel,
  making: ['write'],
  open: edit,
  tap(desk, note, at, slack, isFollowing) {
    const pressed = pressedOfNote(note, at, slack);
    if (!pressed || 'link' in pressed !== isFollowing) return false;
    if ('link' in pressed) window.open(pressed.link, '_blank', 'noopener,noreferrer');
    else check(desk, note, pressed.check, !pressed.isDone);
    return true;
  },
  on: formatOfNote,
  ahead: () => void loadRichEditor().catch(() => {}),
  actions: [...inGroup('Note', [['write', 'write a note', 'w', startNote]]), ...NOTE_FORMATTING],
};

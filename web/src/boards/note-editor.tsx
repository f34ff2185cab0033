import { heightOf, NOTE_TYPE } from '@miradero/core/board';
import { addPoints, boardToScreen, turnPoint } from '@miradero/core/geometry';
import { NOTE_MOST } from '@miradero/core/schema';
import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import type { Desk } from '../desk/index.ts';
import { noteHeightFor, type StageView } from '../stage/index.ts';

/** While writing, what was written is kept this often. */
const KEEP_MS = 700;

/** A note being written, exactly where and how it stands. */
export function NoteEditor({ desk, view }: { desk: Desk; view: StageView }) {
  useSyncExternalStore(desk.subscribe, desk.version);
  useSyncExternalStore(
    (listener) => view.onCamera(listener),
    () => view.camera,
  );
  const { mode } = desk;
  const note = mode.kind === 'write' && mode.id !== undefined ? desk.session.items.get(mode.id) : undefined;
  const [text, setText] = useState(note?.kind === 'note' ? note.text : '');
  const latest = useRef(text);
  latest.current = text;

  useEffect(() => {
    const timer = setTimeout(() => keep(), KEEP_MS);
    return () => clearTimeout(timer);
  });
  const keep = () => {
    desk.write(latest.current);
  };
  if (mode.kind !== 'write') return null;

  const scale = (view.camera.scale * mode.width) / NOTE_TYPE.width;
  const height = noteHeightFor(text, mode.width);
  const startHeight = note ? heightOf(note) : (NOTE_TYPE.minHeight * mode.width) / NOTE_TYPE.width;
  const centre = note?.centre ?? mode.centre;
  const turn = note?.turn ?? 0;
  const corner = turnPoint({ x: -mode.width / 2, y: -startHeight / 2 }, turn);
  const at = boardToScreen(view.camera, view.viewport, addPoints(centre, corner));
  return (
    <textarea
      // The editor opens because the person asked to write.
      // biome-ignore lint/a11y/noAutofocus: see above
      autoFocus
      aria-label="Text of the note"
      className="absolute z-10 resize-none overflow-hidden bg-[#fafaf9] font-serif text-[#1d1d1b] outline-2 outline-verdigris"
      style={{
        left: 0,
        top: 0,
        transformOrigin: '0 0',
        transform: `translate(${at.x}px, ${at.y}px) rotate(${turn}deg) scale(${scale})`,
        width: NOTE_TYPE.width,
        height: (height * NOTE_TYPE.width) / mode.width,
        padding: NOTE_TYPE.padding,
        paddingTop: NOTE_TYPE.padding - 3,
        fontSize: NOTE_TYPE.fontSize,
        lineHeight: `${NOTE_TYPE.lineHeight}px`,
      }}
      value={text}
      onFocus={(event) => event.target.setSelectionRange(text.length, text.length)}
      maxLength={NOTE_MOST}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => {
        keep();
        desk.endWriting();
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') event.currentTarget.blur();
      }}
    />
  );
}

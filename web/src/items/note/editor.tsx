import { addPoints, boardToScreen, type Point, turnPoint } from '@miradero/core/geometry';
import { NOTE_MOST, NOTE_TYPE, type Note, noteHeightFor } from '@miradero/core/items';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { Desk } from '../../desk/index.ts';
import type { StageView } from '../../stage/index.ts';
import { useStore } from '../../state/index.ts';

/** While writing, what was written is kept this often. */
const KEEP_MS = 700;

/** Free space below the last line that is being written. */
const END_PX = 16;

/** A note in the making, as the one who writes it has it. */
export interface InWriting {
  readonly text: string;
  readonly centre: Point;
  /** Board units. */
  readonly width: number;
  noteOn(desk: Desk): Note | undefined;
  write(text: string): void;
  /** Keeps what was written so far. */
  keep(desk: Desk): void;
  end(desk: Desk): void;
}

/** A note being written, exactly where and how it stands. */
export function NoteEditor({ desk, view, writing }: { desk: Desk; view: StageView; writing: InWriting }) {
  useStore(view.store);
  // Made with the first letters, and moved by what another window does.
  const note = useStore(desk.session.store, () => writing.noteOn(desk));
  const [text, setText] = useState(writing.text);
  const area = useRef<HTMLTextAreaElement>(null);
  // Who writes on at the end of a long note goes on seeing it: the board moves, and not the page under it.
  useLayoutEffect(() => {
    const field = area.current;
    if (!field || field.selectionEnd < text.length) return;
    const below = field.getBoundingClientRect().bottom - view.canvas.getBoundingClientRect().bottom + END_PX;
    if (below > 0) view.pan({ x: 0, y: -below });
  }, [text, view]);
  useEffect(() => {
    const timer = setTimeout(() => writing.keep(desk), KEEP_MS);
    return () => clearTimeout(timer);
  });
  const scale = (view.camera.scale * writing.width) / NOTE_TYPE.width;
  const height = noteHeightFor(text, writing.width);
  const startHeight = note?.height ?? (NOTE_TYPE.minHeight * writing.width) / NOTE_TYPE.width;
  const centre = note?.centre ?? writing.centre;
  const turn = note?.turn ?? 0;
  const corner = turnPoint({ x: -writing.width / 2, y: -startHeight / 2 }, turn);
  const at = boardToScreen(view.camera, view.viewport, addPoints(centre, corner));
  return (
    <textarea
      ref={area}
      // The editor opens because the person asked to write.
      // biome-ignore lint/a11y/noAutofocus: see above
      autoFocus
      aria-label="Text of the note"
      data-on-board
      className="absolute z-10 resize-none overflow-hidden bg-[#fafaf9] font-serif text-[#1d1d1b] outline-2 outline-verdigris"
      style={{
        left: 0,
        top: 0,
        transformOrigin: '0 0',
        transform: `translate(${at.x}px, ${at.y}px) rotate(${turn}deg) scale(${scale})`,
        width: NOTE_TYPE.width,
        height: (height * NOTE_TYPE.width) / writing.width,
        padding: NOTE_TYPE.padding,
        paddingTop: NOTE_TYPE.padding - 3,
        fontSize: NOTE_TYPE.fontSize,
        lineHeight: `${NOTE_TYPE.lineHeight}px`,
      }}
      value={text}
      onFocus={(event) => event.target.setSelectionRange(text.length, text.length)}
      maxLength={NOTE_MOST}
      onChange={(event) => {
        writing.write(event.target.value);
        setText(event.target.value);
      }}
      onBlur={() => writing.end(desk)}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') view.focus();
      }}
    />
  );
}

import { surroundColour } from '@miradero/core/colour';
import { addPoints, scalePoint, turnPoint } from '@miradero/core/geometry';
import {
  inkColour,
  NOTE_TYPE,
  noteHeightFor,
  paperColour,
  scaleOfNote,
  settingOfNote,
} from '@miradero/core/items';
import { cutText, mayLink, plainOf, TEXT_MOST, type Text } from '@miradero/core/text';
import { type KeyboardEvent, useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { Desk } from '../../desk/index.ts';
import type { StageView } from '../../stage/index.ts';
import { useMade, useStore } from '../../state/index.ts';
import { formatOf, linkTo } from './editor-format.ts';
import type { InWriting } from './in-writing.ts';
import { useRichEditor } from './rich.ts';
import type { RichEditor } from './rich-editor.ts';

/** While writing, what was written is kept this often. */
const KEEP_MS = 700;

/** Free space below the last line that is being written. */
const END_PX = 16;

/** How far the serif's letters reach below their line, ems; above it, what is left of one. */
const DESCENT = 0.265;

const LABEL = 'Text of the note';
const TOO_LONG = 'A note holds 20,000 characters; nothing was added.';

interface Means {
  readonly desk: Desk;
  readonly writing: InWriting;
  readonly onText: (text: Text) => void;
}

/** Where the formatting editor stands; see `rich-editor.ts`. */
function RichArea({ rich, desk, writing, onText }: Means & { rich: RichEditor }) {
  const holder = useRef<HTMLDivElement>(null);
  const { fontSize, width, face } = settingOfNote(writing.settingOn(desk));
  // Before anything is seen: the very next letter is its.
  useLayoutEffect(() => {
    const editor = rich.createEditor({
      ...{ element: holder.current!, text: writing.text, label: LABEL },
      settingNow: () => settingOfNote(writing.settingOn(desk)),
      onText,
      onFormat: () => {
        if (writing.editor) writing.tellFormat(desk, formatOf(writing.editor));
      },
      onTooLong: () => desk.say(TOO_LONG),
    });
    writing.editor = editor;
    return () => {
      writing.editor = undefined;
      editor.destroy();
    };
  }, [rich, desk, writing, onText]);
  useEffect(() => {
    if (writing.editor) rich.breakAnew(writing.editor);
  }, [rich, writing, fontSize, width, face]);
  return <div ref={holder} className="note-writing" />;
}

/** Takes what is written before the formatting editor is here: without a server it may never be. */
function PlainArea({ writing, onText }: Pick<Means, 'writing' | 'onText'>) {
  const [text, setText] = useState(plainOf(writing.text));
  return (
    <textarea
      // The editor opens because the person asked to write.
      // biome-ignore lint/a11y/noAutofocus: see above
      autoFocus
      aria-label={LABEL}
      className="h-full w-full resize-none overflow-hidden bg-transparent outline-none"
      value={text}
      maxLength={TEXT_MOST}
      // What is formatted would lose that here.
      readOnly={typeof writing.text !== 'string'}
      onFocus={(event) => event.target.setSelectionRange(text.length, text.length)}
      onChange={(event) => {
        setText(event.target.value);
        onText(cutText(event.target.value, TEXT_MOST));
      }}
    />
  );
}

/** Asks where marked words lead. */
function LinkField({ desk, writing }: Pick<Means, 'desk' | 'writing'>) {
  const before = (writing.editor?.getAttributes('link').href as string | undefined) ?? '';
  const [address, setAddress] = useState(before);
  const keep = () => {
    const typed = address.trim();
    const meant = typed === '' || /^(?:[a-z]+:)/i.test(typed) ? typed : `https://${typed}`;
    if (meant !== '' && !mayLink(meant)) {
      desk.say('That is no address of a page.', [meant]);
      return;
    }
    writing.ask(desk, false);
    if (writing.editor && (meant !== '' || before !== '')) linkTo(writing.editor, meant || undefined);
  };
  return (
    <input
      // biome-ignore lint/a11y/noAutofocus: it opens because the person asked to link something
      autoFocus
      aria-label="Address that the words lead to"
      placeholder="https://"
      className="absolute top-2 left-2 z-20 w-80 max-w-[calc(100%-16px)] border border-line bg-raised px-2 py-1 text-[14px] text-ink"
      value={address}
      maxLength={2_000}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setAddress(event.target.value)}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') writing.ask(desk, false);
        if (event.key !== 'Enter') return;
        event.preventDefault();
        keep();
      }}
    />
  );
}

/** The lower end of where letters are put in, pixels of the window; undefined where that is not the end of a plain text. */
function caretBottom({ editor }: InWriting, holder: HTMLElement): number | undefined {
  if (editor) return editor.view.coordsAtPos(editor.state.selection.head).bottom;
  const field = holder.querySelector('textarea');
  return field && field.selectionEnd >= field.value.length ? field.getBoundingClientRect().bottom : undefined;
}

/** Keeps the key that opened the note, and is held, from being written: what repeats counts once another press began it. */
function useHeldKeys() {
  const isOpening = useRef(true);
  return (event: KeyboardEvent) => {
    if (!event.repeat) isOpening.current = false;
    else if (isOpening.current) event.preventDefault();
  };
}

/** What else a note is worked by while it is written: going there does not end it. */
const BESIDE = 'footer, [data-radix-popper-content-wrapper]';

/** A note being written, exactly where and how it stands. */
export function NoteEditor({ desk, view, writing }: { desk: Desk; view: StageView; writing: InWriting }) {
  useStore(view.store);
  // Made with the first letters, and moved by what another window does.
  const note = useStore(desk.session.store, () => writing.noteOn(desk));
  const { isLinking } = useMade(desk.watch, () => ({
    isLinking: writing.isLinking,
    look: writing.settingOn(desk),
  }));
  const [text, setText] = useState(writing.text);
  const onText = useRef((written: Text) => {
    writing.write(written);
    setText(written);
  });
  const all = useRef<HTMLElement>(null);
  const onHeld = useHeldKeys();
  const rich = useRichEditor(() =>
    desk.say('Letters cannot be formatted right now: that part of the page did not come.', [
      typeof writing.text === 'string' ? 'What you write is kept.' : 'This note can be read, not altered.',
    ]),
  );
  // Who writes on at the end of a long note goes on seeing it: the board moves, and not the page under it.
  useEffect(() => {
    const bottom = all.current && caretBottom(writing, all.current);
    const below = (bottom ?? 0) - view.canvas.getBoundingClientRect().bottom + END_PX;
    if (below > 0) view.pan({ x: 0, y: -below });
  }, [text, rich, view, writing]);
  useEffect(() => {
    const timer = setTimeout(() => writing.keep(desk), KEEP_MS);
    return () => clearTimeout(timer);
  });
  const setting = writing.settingOn(desk);
  const { fontSize, lineHeight, face } = settingOfNote(setting);
  const scaleBy = scaleOfNote(setting);
  const scale = view.camera.scale * scaleBy;
  const height = noteHeightFor(text, setting);
  const startHeight = note?.height ?? NOTE_TYPE.minHeight * scaleBy;
  const centre = note?.centre ?? writing.centre;
  // Whoever writes reads: in a view that is turned or mirrored it stands upright where the note is.
  const turn = view.isUpright ? (note?.turn ?? 0) : 0;
  const corner = turnPoint({ x: -setting.width / 2, y: -startHeight / 2 }, turn);
  const at = addPoints(view.seenAt(centre), scalePoint(corner, view.camera.scale));
  // A page has the first baseline where half the leading and the rise of the letters bring it; the stage an em below the top.
  const rise = (lineHeight - fontSize) / 2 - DESCENT * fontSize;
  return (
    <section
      ref={all}
      aria-label="Note"
      onBlur={(event) => {
        const to = event.relatedTarget as HTMLElement | null;
        if (!all.current?.contains(to) && !to?.closest(BESIDE) && !writing.isLinking) writing.end(desk);
      }}
      onKeyDownCapture={onHeld}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') view.focus();
      }}
    >
      <div
        data-on-board
        className={`note-paper absolute top-0 left-0 z-10 font-serif outline-2 outline-verdigris is-${setting.role ?? 'remark'}`}
        style={{
          transformOrigin: '0 0',
          transform: `translate(${at.x}px, ${at.y}px) rotate(${turn}deg) scale(${scale})`,
          width: setting.width / scaleBy,
          height: height / scaleBy,
          padding: NOTE_TYPE.padding,
          paddingTop: NOTE_TYPE.padding - rise,
          fontSize,
          lineHeight: `${lineHeight}px`,
          fontStyle: face === 'italic' ? 'italic' : 'normal',
          fontWeight: face === 'bold' ? 700 : 400,
          color: inkColour(setting.ink, setting.paper),
          background: paperColour(setting.paper) ?? surroundColour(desk.session.board.surround),
        }}
      >
        {setting.role === 'question' && (
          <span className="absolute inset-y-0 left-0 w-[3px] bg-current" aria-hidden />
        )}
        {rich ? (
          <RichArea rich={rich} desk={desk} writing={writing} onText={onText.current} />
        ) : (
          <PlainArea writing={writing} onText={onText.current} />
        )}
      </div>
      {isLinking && <LinkField desk={desk} writing={writing} />}
    </section>
  );
}

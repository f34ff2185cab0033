import { isPlacement } from '@miradero/core/items';
import { BOARD_FILE_SIDES, type BoardFilePictures } from '@miradero/core/schema';
import { useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { Choices } from '../shell/index.ts';
import { ExportSheet } from './export-sheet.tsx';

const WORDS: Readonly<Record<BoardFilePictures, string>> = {
  originals: 'the originals',
  copies: 'copies',
  work: 'what may go into the work',
};
const ABOUT: Readonly<Record<BoardFilePictures, string>> = {
  originals: 'Every picture as it came, byte for byte. Read back here or elsewhere, nothing is lost.',
  copies: 'Small enough to send. Read back, the copies stand where the originals stood.',
  work: 'Originals of those alone that are told to go into the work; all others are left out, also where they stand.',
};
type Side = `${(typeof BOARD_FILE_SIDES)[number]}`;
const SIDES = Object.fromEntries(
  BOARD_FILE_SIDES.map((side) => [side, `${side.toLocaleString('en')}\u2009px`]),
) as Record<Side, string>;

/** Bytes in words: "about 34 MB". */
const size = (bytes: number) =>
  bytes < 950_000
    ? `${Math.max(1, Math.round(bytes / 1_000))}\u2009kB`
    : `${(bytes / 1e6).toFixed(bytes < 9.5e6 ? 1 : 0)}\u2009MB`;

/** How a board is saved as one file. */
export function BoardFileSheet({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const [pictures, setPictures] = useState<BoardFilePictures>('originals');
  const [side, setSide] = useState<Side>('1024');
  const [tasks, setTasks] = useState('');
  const ids = new Set(desk.session.standing.flatMap((item) => (isPlacement(item) ? [item.picture] : [])));
  const shown = [...ids].flatMap((id) => desk.sync.shelf.get(id)?.picture ?? []);
  const going = pictures === 'work' ? shown.filter(({ useMark }) => useMark === 'work') : shown;
  const bytes = going.reduce((sum, picture) => {
    const level = picture.levels.find((one) => one.side >= Number(side)) ?? picture.levels.at(-1);
    return sum + (pictures === 'copies' && level ? level.bytes : picture.bytes);
  }, 0);
  return (
    <ExportSheet
      desk={desk}
      title="Save the board as one file"
      about="A ZIP that shows itself in any browser once it is unpacked, without a network, and is read back here by dropping it."
      request={() => ({
        ...{ items: null, as: 'board-file', type: 'image/png', ground: 'surround', pictures },
        side: pictures === 'copies' ? Number(side) : null,
        ...(tasks.trim() !== '' && { tasks: tasks.trim() }),
      })}
      onClose={onClose}
    >
      <p className="figures mt-4 text-[28px]! leading-none" data-testid="board-file-size">
        {going.length}
        <span className="text-[14px] text-muted">
          {going.length === 1 ? ' picture' : ' pictures'}, about {size(bytes)}
        </span>
      </p>
      <div className="mt-4">
        <h3 className="text-[13px] text-muted">With</h3>
        <Choices
          label="Which pictures go along"
          className="flex-wrap"
          words={WORDS}
          value={pictures}
          onChange={setPictures}
        />
        <p className="text-[13px] text-muted">{ABOUT[pictures]}</p>
      </div>
      {pictures === 'copies' && (
        <div className="mt-4">
          <h3 className="text-[13px] text-muted">Longest side</h3>
          <Choices label="Longest side of the copies" words={SIDES} value={side} onChange={setSide} />
        </div>
      )}
      <label className="mt-4 block text-[13px] text-muted">
        Tasks, for a class (may stay empty): each copy begins with them, one a line
        <textarea
          className="mt-1 block h-16 w-full resize-y border border-line bg-paper px-2 py-1.5 font-serif text-[16px] text-ink"
          maxLength={10_000}
          value={tasks}
          onChange={(event) => setTasks(event.target.value)}
        />
      </label>
    </ExportSheet>
  );
}

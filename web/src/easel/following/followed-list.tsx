import type { Drawing } from '@miradero/core/schema';
import { useQuery } from '@tanstack/react-query';
import { type DragEvent, useEffect, useState } from 'react';
import type { Desk } from '../../desk/index.ts';
import { DRAWINGS } from '../../shell/index.ts';
import { useStore } from '../../state/index.ts';
import { ask } from '../../sync/index.ts';
import { type FollowedDrawing, FollowedDrawings } from './followed-drawings.ts';
import type { FollowState } from './follower.ts';
import { VersionsStrip } from './versions-strip.tsx';

const WORD = 'underline underline-offset-3';
/** What other programs save that can be followed. */
const TYPES = [
  {
    description: 'Drawings',
    accept: {
      'image/png': ['.png'],
      'image/jpeg': ['.jpg', '.jpeg'],
      'image/webp': ['.webp'],
      'image/tiff': ['.tif', '.tiff'],
      'image/openraster': ['.ora'],
    },
  },
];
declare global {
  interface Window {
    showOpenFilePicker?(options: object): Promise<FileSystemFileHandle[]>;
  }
  interface DataTransferItem {
    getAsFileSystemHandle?(): Promise<FileSystemHandle | null>;
  }
  interface FileSystemFileHandle {
    queryPermission?(wish: { mode: 'read' }): Promise<PermissionState>;
    requestPermission?(wish: { mode: 'read' }): Promise<PermissionState>;
  }
}

const hour = (date: Date): string =>
  date.toLocaleTimeString('en', { hour: '2-digit', minute: '2-digit', second: '2-digit', hour12: false });

function stateWords(state: FollowState): string {
  switch (state.kind) {
    case 'elsewhere':
      return 'another window follows it';
    case 'asking':
      return 'may it be read again?';
    case 'watching':
      return state.savedAt ? `saved ${hour(state.savedAt)}` : 'waiting for its first save';
    case 'saving':
      return 'it is being saved';
    case 'gone':
      return 'it is not there any more; it is taken up when it is back';
    case 'unreadable':
      return state.why;
  }
}

function Line({ drawing, onLeave }: { drawing: FollowedDrawing; onLeave: () => void }) {
  const state = useStore(drawing.follower.store, (one) => one.state);
  const isTrouble = state.kind === 'gone' || state.kind === 'unreadable';
  return (
    <li className="text-[12px] leading-snug">
      <span className="block truncate" title={drawing.name}>
        <bdi>{drawing.name}</bdi>
      </span>
      <span role="status" className={isTrouble ? 'text-vermilion' : 'text-muted'}>
        {stateWords(state)}
      </span>{' '}
      {state.kind === 'asking' && (
        <button type="button" className={`${WORD} mr-2`} onClick={() => void drawing.follower.ask()}>
          yes, follow it
        </button>
      )}
      <button
        type="button"
        className={`${WORD} text-muted`}
        aria-label={`Follow ${drawing.name} no more`}
        onClick={onLeave}
      >
        leave it
      </button>
    </li>
  );
}

/** The files that are followed for this sheet; one is chosen, or dropped here. */
export function FollowedList({ desk }: { desk: Desk }) {
  const [followed, setFollowed] = useState<FollowedDrawings>();
  useEffect(() => {
    const own = new FollowedDrawings(desk);
    setFollowed(own);
    return () => own.close();
  }, [desk]);
  return followed ? <List desk={desk} followed={followed} /> : null;
}

const isFile = (event: DragEvent): boolean => event.dataTransfer.types.includes('Files');

/** Every drawing that was ever followed here, as the server has it. */
function useDrawings(board: string): readonly Drawing[] {
  const { data } = useQuery({
    queryKey: [...DRAWINGS, board],
    queryFn: () => ask('GET /api/boards/:id/drawings', { parameters: { id: board } }),
  });
  return data?.drawings ?? [];
}

function List({ desk, followed }: { desk: Desk; followed: FollowedDrawings }) {
  const drawings = useStore(followed.store, (one) => one.drawings);
  const [isOver, setOver] = useState(false);
  const [opened, setOpened] = useState<string>();
  const known = useDrawings(desk.session.id).filter(({ versions }) => versions.length > 0);
  const shown = known.find(({ id }) => id === opened);
  const choose = async () => {
    if (!window.showOpenFilePicker) {
      desk.say('This browser hands out no file to be followed.', [
        'Chromium and its kin do. A file can be brought in as a picture everywhere.',
      ]);
      return;
    }
    try {
      const [handle] = await window.showOpenFilePicker({ id: 'followed', types: TYPES });
      if (handle) await followed.follow(handle);
    } catch (error) {
      // Nothing was chosen.
      if (!(error instanceof DOMException && error.name === 'AbortError')) desk.say((error as Error).message);
    }
  };
  const drop = async (event: DragEvent) => {
    if (!isFile(event)) return;
    event.preventDefault();
    event.stopPropagation();
    setOver(false);
    // Handles are there during the event alone.
    const asked = [...event.dataTransfer.items].map((item) => item.getAsFileSystemHandle?.());
    const handles = await Promise.all(asked);
    const files = handles.filter((one): one is FileSystemFileHandle => one?.kind === 'file');
    if (files.length === 0) desk.say('Nothing in it can be followed: a file of this computer can.');
    for (const file of files) await followed.follow(file);
  };
  return (
    <section
      aria-label="Followed files"
      data-aimed={isOver}
      className="border-line border-t pt-1.5 data-[aimed=true]:border-verdigris"
      onDragOver={(event) => {
        if (!isFile(event)) return;
        event.preventDefault();
        event.stopPropagation();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => void drop(event)}
    >
      <ul className="flex flex-col gap-1 empty:hidden">
        {drawings.map((drawing) => (
          <Line key={drawing.id} drawing={drawing} onLeave={() => void followed.leave(drawing.id)} />
        ))}
      </ul>
      {known.map(({ id, name, versions }) => (
        <button
          key={id}
          type="button"
          aria-expanded={id === opened}
          aria-label={`Versions of ${name}`}
          className={`${WORD} block max-w-full truncate text-[12px]`}
          onClick={() => setOpened(id === opened ? undefined : id)}
        >
          {versions.length === 1 ? 'one version' : `${versions.length} versions`}
          {known.length > 1 && ` of ${name}`}
        </button>
      ))}
      {shown && <VersionsStrip desk={desk} drawing={shown} onClose={() => setOpened(undefined)} />}
      <p className="text-[12px] text-muted leading-snug">
        <button type="button" className={`${WORD} text-ink`} onClick={() => void choose()}>
          {drawings.length === 0 ? 'follow your drawing' : 'follow another'}
        </button>
        {drawings.length === 0 && ': choose its file, or drop it here; it is read again at each save'}
      </p>
    </section>
  );
}

import type { Board } from '@miradero/core/schema';
import { useLayoutEffect, useRef } from 'react';
import type { Desk } from '../desk/index.ts';
import { isInDialog, isTyping, TAB_DRAG } from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import type { Sync } from '../sync/index.ts';
import { bring, type Destination } from './keeping/bring.ts';
import { copyItems, cutItems, ITEMS_TYPE, pasteItems } from './keeping/copied-items.ts';
import { gatheringOf } from './keeping/gathering.ts';
import type { Brought, BroughtFile } from './reading/brought.ts';
import { readClipboard, readDragged } from './reading/read-transfer.ts';
import { walk } from './reading/walk-folders.ts';

const NOTHING_PASTED = 'Nothing on the clipboard can be taken in.';
const NOTHING_DROPPED = 'Nothing in it can be taken in: pictures can, as files or from a page.';

/** What is dragged inside of our own pages (a card of the landing, say) carries this. */
export const OWN_DRAG = 'application/x-miradero-pictures';
/** A part that is dragged within the list of parts carries this. */
export const PART_DRAG = 'application/x-miradero-part';

/** What is dragged inside of our pages is no file and no piece of another page: its targets know what it is. */
const isOwn = (transfer: DataTransfer | null): boolean =>
  transfer !== null && [OWN_DRAG, PART_DRAG, TAB_DRAG].some((type) => transfer.types.includes(type));

const asFile = (file: File): BroughtFile => ({ kind: 'file', file });

/** Says something where there is a board, and where there is none. */
export function sayAt({ sync, desk }: Pick<Destination, 'sync' | 'desk'>, words: string): void {
  if (desk) desk.say(words);
  else gatheringOf(sync).say(words);
}

/** Where a hand, or the middle of the view, is on a board. */
export const pointOf = (desk: Desk | undefined) =>
  desk?.pointer ?? desk?.view?.camera.centre ?? { x: 0, y: 0 };

/** Files of a drop; entries are there during the event alone, so they are asked for before anything waits. */
function filesOf(transfer: DataTransfer): { files: () => Promise<File[]>; hasFolder: boolean } | undefined {
  const entries = [...transfer.items].flatMap((item) =>
    item.kind === 'file' ? (item.webkitGetAsEntry() ?? []) : [],
  );
  const hasFolder = entries.some(({ isDirectory }) => isDirectory);
  const plain = [...transfer.files];
  if (entries.length + plain.length === 0) return undefined;
  return { files: () => (hasFolder ? walk(entries) : Promise.resolve(plain)), hasFolder };
}

/** Where things come in: a window, with the view of the board that is in it. */
export interface Entrance {
  readonly window: Window;
  readonly sync: Sync;
  readonly desk: Desk | undefined;
  /** The desk of the board under an element, where several stand side by side. */
  readonly deskAt?: ((element: Element) => Desk | undefined) | undefined;
  readonly board?: Board | undefined;
  /** The view in that window; by default that of the desk. */
  readonly view?: () => StageView | undefined;
  /** Takes what is brought, instead. */
  readonly onBring?: OnBring | undefined;
}

/** What is done with things that were brought to a page that lets them go neither to a board nor to the landing. */
export type OnBring = (brought: readonly Brought[]) => Promise<void>;

/**
 * What is pasted or dropped anywhere in a window comes in: onto the board, or to the landing.
 *
 * @returns a function that ends it
 */
export function listenForIncoming({
  window,
  sync,
  desk,
  deskAt,
  board,
  view,
  onBring,
}: Entrance): () => void {
  const ending = new AbortController();
  const viewHere = view ?? (() => desk?.view);
  const middle = () => viewHere()?.camera.centre ?? { x: 0, y: 0 };
  const pointer = () => (view ? middle() : pointOf(desk));
  const options = { signal: ending.signal };
  const take = (to: Destination, brought: readonly Brought[]) => onBring?.(brought) ?? bring(to, brought);

  const onPaste = (event: ClipboardEvent) => {
    // The clipboard can be read during the event alone.
    const files = [...(event.clipboardData?.files ?? [])];
    const text = (type: string) => event.clipboardData?.getData(type) ?? '';
    if (isTyping(event) && files.length === 0) return;
    event.preventDefault();
    if (desk && pasteItems(desk, text(ITEMS_TYPE), pointer())) return;
    const brought = readClipboard(files, text('text/html'), text('text/plain'));
    const to = { sync, desk, at: pointer(), ...(board ? { board } : {}) };
    if (brought.length > 0) void take(to, brought);
    else sayAt(to, NOTHING_PASTED);
  };
  const onCopy = (event: ClipboardEvent) => {
    // Words that are marked are copied as everywhere.
    const isMarked = (window.getSelection()?.toString() ?? '') !== '';
    if (!desk || !event.clipboardData || isTyping(event) || isMarked || isInDialog(event)) return;
    const give = event.type === 'cut' ? cutItems : copyItems;
    if (give(desk, event.clipboardData)) event.preventDefault();
  };
  const onOver = (event: DragEvent) => {
    if (isOwn(event.dataTransfer)) return;
    event.preventDefault();
    if (event.dataTransfer) event.dataTransfer.dropEffect = 'copy';
  };
  const onDrop = async (event: DragEvent) => {
    const transfer = event.dataTransfer;
    if (!transfer || isOwn(transfer)) return;
    event.preventDefault();
    const isOnStage = (event.target as Node).nodeName === 'CANVAS';
    // Of boards side by side the one on which it was dropped.
    const under = event.target instanceof Element ? deskAt?.(event.target) : undefined;
    const here = under ? under.view : viewHere();
    const at = isOnStage && here ? here.toBoard(here.pointOf(event)) : middle();
    const to = { sync, desk: under ?? desk, at, ...(board ? { board } : {}) };
    const dropped = filesOf(transfer);
    const isLook = event.altKey;
    const text = (type: string) => transfer.getData(type);
    const dragged = dropped ? [] : readDragged(text('text/html'), text('text/uri-list'), text('text/plain'));
    if (!dropped) {
      if (dragged.length > 0) await take(to, dragged);
      else sayAt(to, NOTHING_DROPPED);
      return;
    }
    const files = await dropped.files();
    if (isLook && dropped.hasFolder) gatheringOf(sync).pick({ kind: 'folder', title: 'The folder', files });
    else if (files.length > 0) await take(to, files.map(asFile));
    else sayAt(to, 'The folder is empty.');
  };
  window.addEventListener('paste', onPaste, options);
  window.addEventListener('copy', onCopy, options);
  window.addEventListener('cut', onCopy, options);
  window.addEventListener('dragover', onOver, options);
  window.addEventListener('drop', (event) => void onDrop(event), options);
  return () => ending.abort();
}

/** The same for the page that is in front. */
export function useIncoming(
  entrance: Pick<Entrance, 'sync' | 'desk' | 'deskAt' | 'board' | 'onBring'>,
): void {
  const { sync, desk, board, onBring } = entrance;
  const latest = useRef(entrance);
  latest.current = entrance;
  const isTaking = onBring !== undefined;
  // Before the page is seen: what is dropped at its first moment comes in, too.
  useLayoutEffect(
    () =>
      listenForIncoming({
        ...{ window, sync, desk, board },
        deskAt: (element) => latest.current.deskAt?.(element),
        onBring: isTaking ? (brought) => latest.current.onBring!(brought) : undefined,
      }),
    [sync, desk, board, isTaking],
  );
}

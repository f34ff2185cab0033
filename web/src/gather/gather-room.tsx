import { INTAKE_TYPES } from '@miradero/core/picture';
import type { Board } from '@miradero/core/schema';
import { Suspense, useEffect, useRef, useState } from 'react';
import { usePlace } from '../commands/index.ts';
import type { Desk } from '../desk/index.ts';
import { useSync } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { GATHERING } from './commands.ts';
import { incomingBoard } from './keeping/board-files.ts';
import { bring } from './keeping/bring.ts';
import { resumeErrands } from './keeping/errands.ts';
import { gatheringOf } from './keeping/gathering.ts';
import { BoardFileSheet, CameraSheet, GrabSheet, PickingSheet } from './lazy-sheets.ts';
import type { Brought, BroughtFile } from './reading/brought.ts';
import { readClipboard } from './reading/read-transfer.ts';
import { AddressSheet } from './sheets/address-sheet.tsx';
import { type OnBring, pointOf, sayAt, useIncoming } from './use-incoming.ts';

const ACCEPTED = `${INTAKE_TYPES.join()},.heic,.heif,.tif,.tiff,.glb,.stl,.obj,.zip,application/zip`;

/** What is on the clipboard, asked for instead of brought by a key. @throws DOMException when the person says no */
async function askClipboard() {
  const files: File[] = [];
  let html = '';
  let text = '';
  for (const item of await navigator.clipboard.read()) {
    const type = item.types.find((one) => one.startsWith('image/'));
    if (type) {
      const ending = type.split('/')[1]!.replace('svg+xml', 'svg');
      files.push(new File([await item.getType(type)], `Pasted picture.${ending}`, { type }));
    }
    if (item.types.includes('text/html')) html ||= await (await item.getType('text/html')).text();
    if (item.types.includes('text/plain')) text ||= await (await item.getType('text/plain')).text();
  }
  return readClipboard(files, html, text);
}

type Open = 'address' | 'grab' | 'grab-again' | 'camera' | undefined;

/** Every way in, for one page: what is dropped or pasted anywhere on it, choosers, sheets, camera and screen. */
export function GatherRoom({
  desk,
  deskAt,
  board,
  onBring,
}: {
  desk?: Desk;
  /** See `Entrance`. */
  deskAt?: (element: Element) => Desk | undefined;
  board?: Board;
  /** Takes what is brought, instead of the board in front or the landing. */
  onBring?: OnBring;
}) {
  const sync = useSync();
  const gathering = gatheringOf(sync);
  const picking = useStore(gathering.store, (report) => report.picking);
  const isBoardComing = useStore(incomingBoard, ({ now }) => now !== undefined);
  const [open, setOpen] = useState<Open>();
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  useIncoming({ sync, desk, deskAt, board, onBring });
  const take = (brought: readonly Brought[]) => void (onBring?.(brought) ?? bring(to, brought));
  useEffect(() => {
    // It was brought to a page that made this board for it.
    const carried = desk && gathering.takeCarried(desk.session.id);
    if (carried) void bring({ sync, desk, at: { x: 0, y: 0 } }, carried);
  }, [sync, desk, gathering]);
  useEffect(() => void resumeErrands(sync, desk), [sync, desk]);

  const paste = async () => {
    const to = { sync, desk, at: pointOf(desk), ...(board ? { board } : {}) };
    try {
      const brought = await askClipboard();
      if (brought.length > 0) await (onBring?.(brought) ?? bring(to, brought));
      else sayAt(to, 'Nothing on the clipboard can be taken in.');
    } catch {
      sayAt(to, 'The clipboard could not be read. Allow it in the browser, or choose files instead.');
    }
  };
  usePlace(GATHERING, {
    choose: (what) => (what === 'files' ? files : folder).current?.click(),
    paste: () => void paste(),
    open: setOpen,
  });

  const middle = desk?.view?.camera.centre ?? { x: 0, y: 0 };
  const to = { sync, desk, at: middle, ...(board ? { board } : {}) };
  const close = () => setOpen(undefined);
  const bringFiles = (chosen: readonly File[], more: Partial<BroughtFile> = {}) =>
    take(chosen.map((file) => ({ kind: 'file', file, ...more })));
  return (
    <>
      <input
        ref={files}
        id="choose-files"
        type="file"
        multiple
        accept={ACCEPTED}
        className="hidden"
        tabIndex={-1}
        aria-hidden
        onChange={(event) => {
          const chosen = [...(event.target.files ?? [])];
          event.target.value = '';
          if (chosen.length > 0) bringFiles(chosen);
        }}
      />
      <input
        ref={folder}
        id="choose-folder"
        type="file"
        multiple
        // React does not know this one; without it the chooser offers files.
        {...{ webkitdirectory: '' }}
        className="hidden"
        tabIndex={-1}
        aria-hidden
        onChange={(event) => {
          const chosen = [...(event.target.files ?? [])].filter(({ name }) => !name.startsWith('.'));
          const title = chosen[0]?.webkitRelativePath.split('/')[0] || 'The folder';
          event.target.value = '';
          if (chosen.length > 0) gathering.pick({ kind: 'folder', title, files: chosen });
        }}
      />
      <Suspense>
        {picking && <PickingSheet picking={picking} to={to} onClose={() => gathering.pick(undefined)} />}
        {open === 'address' && (
          <AddressSheet
            onClose={close}
            onTake={(addresses) =>
              take(addresses.map((address) => ({ kind: 'address', address, isPicture: false })))
            }
          />
        )}
        {(open === 'grab' || open === 'grab-again') && (
          <GrabSheet isAgain={open === 'grab-again'} onClose={close} onTake={(file) => bringFiles([file])} />
        )}
        {isBoardComing && <BoardFileSheet />}
        {open === 'camera' && <CameraSheet onClose={close} onTake={(one) => take([one])} />}
      </Suspense>
    </>
  );
}

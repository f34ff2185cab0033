import { marksByPicture } from '@miradero/core/board';
import { isAsItCame, isPlacement, type Placement } from '@miradero/core/items';
import { fileNameOf, portableName } from '@miradero/core/picture';
import type { DragEvent } from 'react';
import type { Desk } from '../desk/index.ts';
import { useMade } from '../state/index.ts';
import { exportingOf, pathOfExport } from './exporting.ts';
import { chosenOn, sayWhy } from './taking-out.ts';

/** How a browser is told of a file that is fetched where the drag ends: kind, name, address. */
const FILE_BY_ADDRESS = 'DownloadURL';

/** A handle by which what is selected is dragged to another program or a folder: one picture as its file, several as a ZIP. */
export function DragOut({ desk }: { desk: Desk }) {
  const { count } = useMade(desk.watch, () => ({
    count: chosenOn(desk, false)?.items.filter(isPlacement).length ?? 0,
  }));
  if (count === 0) return null;
  const onDragStart = ({ dataTransfer }: DragEvent) => {
    const chosen = chosenOn(desk, false);
    if (!chosen) return;
    const id = crypto.randomUUID();
    const placements = chosen.items.filter(isPlacement);
    const file = fileOf(desk, placements);
    const address = new URL(pathOfExport(id), window.location.href).href;
    dataTransfer.effectAllowed = 'copy';
    dataTransfer.setData(FILE_BY_ADDRESS, `${file.type}:${file.name}:${address}`);
    dataTransfer.setData('text/uri-list', address);
    // It is being made while the hand is still on its way.
    exportingOf(desk.sync)
      .take(
        {
          board: desk.session.id,
          request: {
            ...{ items: chosen.ids && [...chosen.ids], as: 'each', type: 'image/png', side: null },
            ground: 'clear',
          },
        },
        id,
      )
      .catch((error: unknown) => sayWhy(desk, error));
  };
  return (
    <div
      role="note"
      draggable
      data-testid="drag-out"
      className="mx-1.5 cursor-grab border border-line border-dashed px-2 py-1.5 text-[13px]"
      onDragStart={onDragStart}
    >
      {count === 1
        ? 'Drag this to a folder or another program: a file.'
        : `Drag this to a folder or another program: ${count} files in a ZIP.`}
    </div>
  );
}

/** What the file will be, said before it is made. */
function fileOf(desk: Desk, placements: readonly Placement[]): { type: string; name: string } {
  const [only] = placements;
  if (!only || placements.length > 1)
    return { type: 'application/zip', name: `${portableName(desk.session.board.name)}.zip` };
  const known = desk.sync.shelf.get(only.picture);
  const isDrawnOn = marksByPicture(desk.session.items).has(only.id);
  const original = isAsItCame(only) && !isDrawnOn ? known?.picture : undefined;
  return {
    type: original?.type ?? 'image/png',
    name: fileNameOf(known?.name ?? '', 'png', original?.fileName),
  };
}

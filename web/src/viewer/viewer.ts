import type { ViewerBoard } from '@miradero/core/board-file';
import { BoardCanvas, type PressedItem } from './board-canvas.ts';
import { element, listenToHead, listWords } from './page.ts';

/**
 * The viewer of a board file: one classic script beside its data, since browsers load neither modules nor other files for a
 * page that lies on a disk. It shows and alters nothing.
 */
const board = (globalThis as unknown as { MIRADERO_BOARD: ViewerBoard }).MIRADERO_BOARD;
const label = element('label');

function tell(pressed: PressedItem | undefined): void {
  const picture = pressed?.picture;
  label.replaceChildren();
  label.hidden = !picture;
  if (!picture) return;
  const [name, credit] = [document.createElement('strong'), document.createElement('span')];
  name.textContent = picture.name;
  credit.textContent = picture.credit;
  label.append(name, credit);
}

element('name').textContent = board.name;
listWords(board, element('words'));
const canvas = new BoardCanvas(board, element<HTMLCanvasElement>('board'), tell);
listenToHead(canvas);

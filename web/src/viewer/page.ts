import type { ViewerBoard } from '@miradero/core/board-file';
import type { BoardCanvas } from './board-canvas.ts';

export const element = <T extends HTMLElement>(id: string): T => document.getElementById(id) as T;

/** The words above a board: whole, and from picture to picture. */
export function listenToHead(canvas: BoardCanvas): void {
  element('whole').addEventListener('click', () => canvas.whole());
  element('next').addEventListener('click', () => canvas.step(1));
  element('before').addEventListener('click', () => canvas.step(-1));
}

/** What stands on the board in words, for those who do not see it. */
export function listWords(board: ViewerBoard, list: HTMLElement): void {
  for (const { words } of board.items) {
    if (words === '') continue;
    const entry = document.createElement('li');
    entry.textContent = words;
    list.append(entry);
  }
}

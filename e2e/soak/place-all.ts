import { keysOnTop } from '@miradero/core/board';
import { createNote, noteHeightFor } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import { asChecks, type Text } from '@miradero/core/text';
import type { TestBoard } from '../support/board.ts';

const SAID: readonly Text[] = [
  'The glass is the lightest thing on page seven, and the wet rope the darkest but one.',
  asChecks('Photograph the block\nAsk Orla about the tar\nMeasure the yard'),
];

/** What a soaked board begins with: six pictures in a row, and two notes below them. */
export async function placeAll(board: TestBoard): Promise<Item[]> {
  const pictures = await board.place([1, 2, 3, 4, 5, 6]);
  const stacks = keysOnTop(pictures, SAID.length);
  const notes = SAID.map((text, index) => {
    const set = { width: 400, scale: 2 };
    return createNote({
      ...{ id: `n${index}`, stack: stacks[index]!, text, ...set },
      ...{ height: noteHeightFor(text, set), centre: { x: index * 440 - 220, y: 320 } },
    });
  });
  await board.change(notes.map((create) => ({ create })));
  return [...pictures, ...notes];
}
